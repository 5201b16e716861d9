"""Sheets of paper cards over HTTP."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.common.sources import open_table
from nailwright.common.uploads import uploaded
from nailwright.programmes.policies import person_of, programme_for
from nailwright.records.paper_cards import serializers
from nailwright.records.paper_cards.sheet import file_cards, sheet_of


class CardSheetView(APIView):
    """The lines of a file (CSV, XLSX, Data Package) as cards: nothing is kept."""

    parser_classes = [MultiPartParser]

    @extend_schema(
        operation_id="card_sheet_of_file",
        request={
            "multipart/form-data": {
                "type": "object",
                "properties": {
                    "file": {"type": "string", "format": "binary"},
                    "columns": {
                        "type": "string",
                        "description": "JSON: what columns hold, by header, where it is not told by the name",
                    },
                },
            }
        },
        responses=serializers.CardSheetSerializer,
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "correct_record")
        table = open_table(uploaded(request).read())
        sheet = sheet_of(programme, table, given(serializers.ChosenColumnsSerializer, request)["columns"])
        return Response(serializers.CardSheetSerializer(sheet).data)


class PaperCardsView(APIView):
    """Stores many paper cards at once, or tells what would become of each."""

    takes_long = True

    @extend_schema(
        operation_id="file_paper_cards",
        request=serializers.FileCardsSerializer,
        responses=serializers.FiledCardSerializer(many=True),
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "correct_record")
        asked = given(serializers.FileCardsSerializer, request)
        filed = file_cards(person_of(request), programme, asked["rows"], asked, asked["store"])
        return Response(serializers.FiledCardSerializer(filed, many=True).data)
