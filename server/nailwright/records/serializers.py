"""Shapes of files on their way into the record."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright.findings.request_query import AnySpeciesSerializer
from nailwright.jobs.serializers import JobSerializer
from nailwright.records.columns import READ
from nailwright.records.models import Import
from nailwright.records.register import MOST_ROWS, SORTS
from nailwright.tags.histories import GROUPINGS

DATE_ORDERS = (("day", "Day first"), ("month", "Month first"))
DECIMALS = ((".", "Point"), (",", "Comma"))


class UploadSerializer(serializers.Serializer):
    file = serializers.FileField(help_text="CSV, XLSX or Data Package, at most 64 MB")


class BoundSerializer(serializers.Serializer):
    header = serializers.CharField(max_length=90, trim_whitespace=False)
    key = serializers.ChoiceField([(key, column.title) for key, column in READ.items()], allow_blank=True)
    unit = serializers.CharField(max_length=4, allow_null=True, required=False)


class AnswersSerializer(serializers.Serializer):
    columns = BoundSerializer(many=True)
    date_order = serializers.ChoiceField(DATE_ORDERS, allow_null=True, required=False)
    mixed_dates = serializers.BooleanField(default=False)
    years_until = serializers.IntegerField(
        min_value=1949, max_value=2100, allow_null=True, required=False,
        help_text="Last of the hundred years that a year of two digits may mean",
    )  # fmt: skip
    decimal = serializers.ChoiceField(DECIMALS, allow_null=True, required=False)
    fixed = serializers.DictField(child=serializers.CharField(max_length=120, allow_blank=True), default=dict)
    words = serializers.DictField(
        child=serializers.DictField(child=serializers.CharField(max_length=60, allow_blank=True)), default=dict
    )
    missing = serializers.ListField(
        child=serializers.CharField(max_length=40), max_length=200, default=list,
        help_text="Further cells that mean that there is no value",
    )  # fmt: skip
    new_sites = serializers.BooleanField(default=True)
    new_marks = serializers.BooleanField(default=True)


class FileColumnSerializer(serializers.Serializer):
    header = serializers.CharField()
    samples = serializers.ListField(child=serializers.CharField())
    slashed = serializers.CharField(allow_blank=True, help_text="A date that may be day first or month first")
    short_year = serializers.CharField(
        allow_blank=True, default="", help_text="A date whose year has two digits; a preview of before does not say"
    )
    date_order = serializers.ChoiceField(DATE_ORDERS, allow_null=True, help_text="Where its dates show it")


class PreviewSerializer(serializers.Serializer):
    how = serializers.CharField()
    notices = serializers.ListField(child=serializers.CharField())
    about = serializers.IntegerField()
    evidence = serializers.DictField(child=serializers.CharField())
    remembered = serializers.ListField(child=serializers.CharField())
    columns = FileColumnSerializer(many=True)


class RejectSerializer(serializers.Serializer):
    line = serializers.IntegerField()
    column = serializers.CharField(allow_blank=True)
    reason = serializers.CharField()


class UnknownWordSerializer(serializers.Serializer):
    word = serializers.CharField()
    n = serializers.IntegerField()


class AskSerializer(serializers.Serializer):
    field = serializers.CharField()
    message = serializers.CharField()


class NewRowsSerializer(serializers.Serializer):
    sites = serializers.IntegerField()
    outings = serializers.IntegerField()
    runs = serializers.IntegerField()
    fish = serializers.IntegerField()


class RefusalGroupSerializer(serializers.Serializer):
    """Lines that were refused for one reason."""

    code = serializers.CharField()
    column = serializers.CharField(allow_blank=True)
    n = serializers.IntegerField()
    reason = serializers.CharField(help_text="Of the first of them")
    cells = serializers.ListField(child=serializers.CharField(), help_text="What stood there, each once; at most 40")


class ResultSerializer(serializers.Serializer):
    lines = serializers.IntegerField()
    good = serializers.IntegerField()
    there = serializers.IntegerField()
    bad = serializers.IntegerField()
    new = NewRowsSerializer()
    rejects = RejectSerializer(many=True, help_text="The first 200; the reject file holds all")
    groups = RefusalGroupSerializer(many=True, default=list)
    unknown = serializers.DictField(child=UnknownWordSerializer(many=True))
    asks = AskSerializer(many=True)


class ImportLineSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    file_name = serializers.CharField()
    person = serializers.CharField(source="person.name")
    made_at = serializers.DateTimeField()
    in_at = serializers.DateTimeField(allow_null=True)
    state = serializers.ChoiceField(Import.State.choices)
    good = serializers.SerializerMethodField()

    def get_good(self, row: Import) -> int:
        return row.result["good"] if row.result else 0


class ImportSerializer(ImportLineSerializer):
    bytes = serializers.IntegerField()
    preview = PreviewSerializer()
    answers = AnswersSerializer()
    result = ResultSerializer(allow_null=True)
    job = JobSerializer(allow_null=True)


class ColumnKindSerializer(serializers.Serializer):
    key = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    units = serializers.ListField(child=serializers.CharField())
    choices = serializers.DictField(
        child=serializers.CharField(), help_text="What a word of this column can mean: key and how it is called"
    )


class ImportsSerializer(serializers.Serializer):
    kinds = ColumnKindSerializer(many=True)
    imports = ImportLineSerializer(many=True)


@extend_schema_field({"oneOf": [{"type": "string"}, {"type": "number"}]})
class CellField(serializers.Field):
    """A text, or a number as a number."""

    def to_representation(self, value: Any) -> Any:
        return value


class RegisterQuerySerializer(AnySpeciesSerializer):
    sort = serializers.ChoiceField([sign + name for name in SORTS for sign in ("", "-")], default="-time")
    row = serializers.IntegerField(min_value=0, max_value=100_000_000, default=0, help_text="Where the page begins")
    limit = serializers.IntegerField(min_value=1, max_value=MOST_ROWS, default=100)
    deleted = serializers.BooleanField(default=False, help_text="Also fish that were taken out")
    total = serializers.IntegerField(
        min_value=0,
        required=False,
        default=None,
        allow_null=True,
        help_text="As an earlier page said; counted without it",
    )


class RegisterColumnSerializer(serializers.Serializer):
    key = serializers.CharField()
    heading = serializers.CharField(help_text="With its unit")
    type = serializers.CharField(help_text="By Table Schema")


class RegisterRowSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    deleted = serializers.BooleanField()
    by_eye = serializers.ListField(child=serializers.CharField(), help_text="Columns whose figure is an estimate")
    cells = serializers.ListField(child=CellField(), help_text="In the order of the columns; numbers as numbers")


class RegisterSerializer(serializers.Serializer):
    total = serializers.IntegerField()
    columns = RegisterColumnSerializer(many=True)
    rows = RegisterRowSerializer(many=True)


class MappingSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    answers = AnswersSerializer()
    saved_at = serializers.DateTimeField()


class SaveMappingSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField(max_length=60)
    answers = AnswersSerializer()


class HistoriesQuerySerializer(serializers.Serializer):
    species = serializers.CharField(max_length=8)
    by = serializers.ChoiceField([*GROUPINGS], default="year", help_text="How days that were fished are put together")


class OfSpeciesSerializer(serializers.Serializer):
    species = serializers.CharField(
        max_length=8, default="", allow_blank=True, help_text="A code; empty: every species"
    )


class MeetingHandlingSerializer(serializers.Serializer):
    meeting = serializers.UUIDField(help_text="Of the capture or card")
    people = serializers.ListField(child=serializers.CharField())
    lines = serializers.ListField(child=serializers.CharField(), help_text="What was done, in short sentences")


class FishPhotoSerializer(serializers.Serializer):
    address = serializers.CharField()
    small = serializers.CharField()
    meeting = serializers.UUIDField(help_text="Of the capture, card or report that it came with")
    shows = serializers.CharField()
    at = serializers.DateTimeField()


class FishHandlingSerializer(serializers.Serializer):
    meetings = MeetingHandlingSerializer(many=True)
    photos = FishPhotoSerializer(many=True)
