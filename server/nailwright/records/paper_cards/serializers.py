"""Shapes of sheets of paper cards."""

from rest_framework import serializers

from nailwright.programmes.models import LENGTH_UNITS
from nailwright.records.paper_cards.columns import CARD_COLUMNS
from nailwright.records.paper_cards.sheet import MOST_CARDS
from nailwright.records.serializers import DATE_ORDERS

_KEYS = [(key, column.title) for key, column in CARD_COLUMNS.items()]


class ChosenColumnsSerializer(serializers.Serializer):
    columns = serializers.JSONField(binary=True, default=dict)

    def validate_columns(self, chosen: object) -> dict[str, str]:
        if not isinstance(chosen, dict) or not all(isinstance(each, str) for each in chosen.values()):
            raise serializers.ValidationError("Expected a JSON object: the key of a column by the header of the file.")
        return chosen


class SheetColumnSerializer(serializers.Serializer):
    header = serializers.CharField()
    key = serializers.ChoiceField(_KEYS, allow_blank=True, help_text="What it holds; empty: not read")


class SheetRowSerializer(serializers.Serializer):
    id = serializers.UUIDField(help_text="Of the card: the same line has the same key whenever it comes")
    line = serializers.IntegerField(required=False, help_text="In its file")
    cells = serializers.DictField(
        child=serializers.CharField(max_length=1000, allow_blank=True), help_text="Texts by column"
    )

    def validate_cells(self, cells: dict[str, str]) -> dict[str, str]:
        if unknown := next((key for key in cells if key not in CARD_COLUMNS), None):
            raise serializers.ValidationError(f"'{unknown[:40]}' is no column of a card.")
        return cells


class CardSheetSerializer(serializers.Serializer):
    how = serializers.CharField(help_text="How the file was read")
    notices = serializers.ListField(child=serializers.CharField())
    columns = SheetColumnSerializer(many=True)
    date_order = serializers.ChoiceField(DATE_ORDERS, allow_null=True, help_text="Where its dates show it")
    rows = SheetRowSerializer(many=True)


class FileCardsSerializer(serializers.Serializer):
    rows = serializers.ListField(child=SheetRowSerializer(), min_length=1, max_length=MOST_CARDS)
    tagger = serializers.UUIDField(
        allow_null=True, default=None, help_text="Key of a membership, for lines that name none"
    )
    date_order = serializers.ChoiceField(DATE_ORDERS, allow_null=True, default=None)
    length_unit = serializers.ChoiceField(LENGTH_UNITS, help_text="Of a length that has none")
    store = serializers.BooleanField(default=False, help_text="False: only see what would become of them")


class FiledCardSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    state = serializers.ChoiceField(["ready", "stored", "there", "refused"])
    field = serializers.CharField(help_text="Column of what is wrong")
    message = serializers.CharField()
    tagger = serializers.CharField(help_text="Name of who wrote the card")
    missing = serializers.ListField(child=serializers.CharField())
    problem = serializers.CharField(help_text="Why its tag cannot be placed")
