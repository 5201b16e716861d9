"""What an outing leaves on paper: ledger, day, anglers' cards, over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.deck.http import outing_for
from nailwright.deck.outing.anglers import anglers_of, card_csv, card_of, card_pdf
from nailwright.deck.outing.enough import enough_of
from nailwright.deck.outing.ledger import day_pdf, ledger_of
from nailwright.deck.outing.weigh_in import results_of
from nailwright.deck.serializers.anglers import AnglerCardQuerySerializer, AnglersSerializer
from nailwright.deck.serializers.enough import EnoughLineSerializer
from nailwright.deck.serializers.ledger import LedgerSerializer, PaperSizeSerializer
from nailwright.programmes.places import places_of
from nailwright.programmes.policies import person_of


class EnoughView(APIView):
    """The precision reached so far, against what the plan wanted."""

    @extend_schema(operation_id="enough_so_far", responses=EnoughLineSerializer(many=True))
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing = outing_for(request, outing_id)
        hidden = places_of(person_of(request), outing.programme).hidden
        return Response(EnoughLineSerializer(enough_of(outing, hidden), many=True).data)


class LedgerView(APIView):
    """What came aboard and how it left, with what the deaths say; and what is not complete yet."""

    @extend_schema(operation_id="ledger", responses=LedgerSerializer)
    def get(self, request: Request, outing_id: UUID) -> Response:
        return Response(LedgerSerializer(ledger_of(outing_for(request, outing_id))).data)


class DayView(APIView):
    """The day in plain words, as PDF."""

    takes_long = True

    @extend_schema(
        operation_id="day_pdf",
        parameters=[PaperSizeSerializer],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, outing_id: UUID) -> HttpResponse:
        outing = outing_for(request, outing_id)
        asked = PaperSizeSerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        page = day_pdf(
            outing,
            asked.validated_data["paper"],
            timezone.now().date(),
            places_of(person_of(request), outing.programme),
        )
        response = HttpResponse(page, content_type="application/pdf")
        response["Content-Disposition"] = 'attachment; filename="day.pdf"'
        return response


class AnglersView(APIView):
    """Who fished by rod on an outing."""

    @extend_schema(operation_id="anglers", responses=AnglersSerializer)
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing = outing_for(request, outing_id)
        return Response(AnglersSerializer({"names": anglers_of(outing), "results": results_of(outing)}).data)


class AnglerCardView(APIView):
    """One angler's day: PDF, or CSV with a line for each fish."""

    takes_long = True

    @extend_schema(
        operation_id="angler_card",
        parameters=[AnglerCardQuerySerializer],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY, (200, "text/csv"): OpenApiTypes.STR},
    )
    def get(self, request: Request, outing_id: UUID) -> HttpResponse:
        outing = outing_for(request, outing_id)
        asked = AnglerCardQuerySerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        values = asked.validated_data
        card = card_of(outing, values["angler"], places_of(person_of(request), outing.programme))
        if values["form"] == "csv":
            response = HttpResponse(card_csv(card), content_type="text/csv; charset=utf-8")
        else:
            page = card_pdf(card, values["paper"], timezone.now().date(), values["form"] == "report")
            response = HttpResponse(page, content_type="application/pdf")
        file = {"csv": "angler.csv", "pdf": "angler.pdf", "report": "catch-report.pdf"}[values["form"]]
        response["Content-Disposition"] = f'attachment; filename="{file}"'
        return response
