"""Outings over HTTP: opened, closed, what waits."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlencode
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.deck import serializers
from nailwright.deck.models import Outing
from nailwright.deck.outing.conflicts import crossed_of, leave_as_it_stands
from nailwright.deck.outing.outings import close_outing, go_by_protocol, open_outing, reopen_outing
from nailwright.deck.outing.today import today_of
from nailwright.deck.queries import outings_of
from nailwright.deck.serializers.crossed import CrossedSerializer, LookedAtSerializer
from nailwright.deck.serializers.instruments import InstrumentsSerializer
from nailwright.gateway.tickets import gateway, make_ticket
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.programmes.record.acts import act_of
from nailwright.programmes.record.audit import Act
from nailwright.waters.queries import water_of


class OutingsView(APIView):
    """Outings of a programme, newest first; a post opens one."""

    @extend_schema(operation_id="outings", responses=serializers.OutingSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.OutingSerializer(outings_of(programme), many=True).data)

    @extend_schema(
        operation_id="open_outing",
        request=serializers.OpenOutingSerializer,
        responses={201: serializers.OutingSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "open_outing")
        values = given(serializers.OpenOutingSerializer, request)
        outing = open_outing(
            person_of(request),
            programme,
            outing_id=values["id"],
            water=water_of(programme, values["water"]),
            day=values["date"],
            gear=values["gear"],
            more_gears=values["more_gears"],
            name=values["name"],
            units={"length_unit": values["length_unit"], "mass_unit": values["mass_unit"]},
        )
        return Response(_outing(outing), status.HTTP_201_CREATED)


class TodayView(APIView):
    """The home screen: open outings with targets, and what waits for a person."""

    @extend_schema(operation_id="today", responses=serializers.TodaySerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.TodaySerializer(today_of(programme)).data)


class CrossedView(APIView):
    """What two people put right differently; a post says that it was looked at and is right as it stands."""

    @extend_schema(operation_id="crossed", responses=CrossedSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "correct_record")
        return Response(CrossedSerializer(crossed_of(programme), many=True).data)

    @extend_schema(operation_id="look_at_crossed", request=LookedAtSerializer, responses=CrossedSerializer(many=True))
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "correct_record")
        values = given(LookedAtSerializer, request)
        leave_as_it_stands(act_of(request, "two words were compared: it stands"), programme, values["change"])
        return Response(CrossedSerializer(crossed_of(programme), many=True).data)


class OutingStateView(APIView):
    """Closing an outing, and opening it again."""

    @extend_schema(
        operation_id="set_outing_state",
        request=serializers.OutingStateSerializer,
        responses=serializers.OutingSerializer,
    )
    def post(self, request: Request, outing_id: UUID) -> Response:
        outing = get_object_or_404(Outing.objects.select_related("programme"), pk=outing_id)
        values = given(serializers.OutingStateSerializer, request)
        act = Act(values["id"], person_of(request), timezone.now(), values["reason"])
        if values["state"] == Outing.State.CLOSED:
            return Response(_outing(close_outing(act, outing, values["name"].strip(), values["note"].strip())))
        return Response(_outing(reopen_outing(act, outing)))


class OutingProtocolView(APIView):
    """An open outing goes by the protocol that holds now."""

    @extend_schema(operation_id="go_by_protocol", request=None, responses=serializers.OutingSerializer)
    def post(self, request: Request, outing_id: UUID) -> Response:
        outing = get_object_or_404(Outing.objects.select_related("programme"), pk=outing_id)
        return Response(_outing(go_by_protocol(act_of(request, "the protocol was changed"), outing)))


class InstrumentsView(APIView):
    """Where the Deck hears the instruments; empty where no gateway is set up. The tickets are good for a day, or until the sign-in ends.

    Simulated instruments are heard by the demo and in practice alone: nothing they say belongs in a real record.
    """

    @extend_schema(
        operation_id="instruments",
        parameters=[OpenApiParameter("practice", bool, description="Nothing that is heard enters the record")],
        responses=InstrumentsSerializer,
    )
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing = get_object_or_404(Outing.objects.select_related("programme"), pk=outing_id)
        require(person_of(request), outing.programme, "work_deck")
        where = gateway()
        apart = outing.programme.demo or request.query_params.get("practice") == "true"
        if not where.address or (where.plays and not apart):
            return Response(InstrumentsSerializer({"stream": "", "play": "", "simulated": where.plays}).data)
        query = urlencode({"ticket": make_ticket(person_of(request), request.session.session_key)})
        told = {
            "stream": f"{where.address}/stream?{query}",
            "play": f"{where.address}/play?{query}" if where.plays else "",
            "simulated": where.plays,
        }
        return Response(InstrumentsSerializer(told).data)


def _outing(outing: Outing) -> dict[str, Any]:
    return serializers.OutingSerializer(outings_of(outing.programme).get(pk=outing.pk)).data
