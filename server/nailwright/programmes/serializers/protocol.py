"""Shapes of protocols: rows of plain cells, and the columns that say what they mean."""

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright.common.field_shapes import FieldSerializer
from nailwright.programmes.models import ProtocolVersion
from nailwright.programmes.protocols import protocol_in
from nailwright_core.protocol import GROUPS
from nailwright_core.protocol.suggested import suggested_rows


@extend_schema_field({"oneOf": [{"type": "string"}, {"type": "number"}], "nullable": True})
class CellField(serializers.Field):
    """A text, a figure or nothing; core says what it may be."""

    def to_internal_value(self, data: Any) -> Any:
        return data

    def to_representation(self, value: Any) -> Any:
        return value


class RowsField(serializers.DictField):
    """Sections by code, each a list of rows."""

    def __init__(self, **more: Any) -> None:
        row = serializers.DictField(child=CellField(allow_null=True))
        super().__init__(child=serializers.ListField(child=row, max_length=1000), **more)


class SectionSerializer(serializers.Serializer):
    group = serializers.SerializerMethodField()
    code = serializers.CharField()
    title = serializers.CharField()
    note = serializers.CharField()
    single = serializers.BooleanField()
    fixed = serializers.BooleanField()
    most = serializers.IntegerField()
    columns = FieldSerializer(many=True)
    once = serializers.ListField(child=serializers.CharField(), help_text="Columns that together name a row")
    suggested = serializers.SerializerMethodField(
        help_text="Rows to take into it by one touch; none of them holds before"
    )

    @extend_schema_field(serializers.ListField(child=serializers.DictField(child=CellField(allow_null=True))))
    def get_suggested(self, section: Any) -> list[Any]:
        return [dict(row) for row in suggested_rows(section.code)]

    def get_group(self, section: Any) -> str:
        return next(group for group, sections in GROUPS.items() if section in sections)


class VersionSerializer(serializers.ModelSerializer):
    by = serializers.SerializerMethodField()
    outings = serializers.IntegerField(source="n_outings", help_text="Outings that were made under it")

    class Meta:
        model = ProtocolVersion
        fields = ["number", "made_at", "why", "by", "outings"]
        read_only_fields = fields

    def get_by(self, version: ProtocolVersion) -> str:
        return version.person.name if version.person else ""


class ProtocolSerializer(serializers.Serializer):
    """One version of a protocol, and all that there were."""

    number = serializers.IntegerField()
    standing = serializers.BooleanField(help_text="Whether it holds now")
    values = serializers.SerializerMethodField()
    sections = SectionSerializer(many=True)
    versions = VersionSerializer(many=True)

    @extend_schema_field(RowsField())
    def get_values(self, told: dict[str, Any]) -> Any:
        values = protocol_in(told["version"]).as_values()
        if not told["with_mail"]:  # somebody's address is for those who decide who is told
            values["told"] = [{**row, "email": ""} for row in values["told"]]
        return values


class DecideSerializer(serializers.Serializer):
    id = serializers.UUIDField(help_text="Key of the new version; sending it twice makes one")
    based_on = serializers.IntegerField(help_text="Number of the version that was looked at")
    why = serializers.CharField(max_length=200, allow_blank=True)
    sections = RowsField(help_text="Only those that change")
