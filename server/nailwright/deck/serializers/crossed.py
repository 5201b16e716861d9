"""What two people put right differently."""

from rest_framework import serializers


class WordSerializer(serializers.Serializer):
    value = serializers.JSONField(allow_null=True)
    person = serializers.CharField()
    at = serializers.DateTimeField()


class CrossedSerializer(serializers.Serializer):
    change = serializers.UUIDField(help_text="A change by which one of the two was said")
    what = serializers.CharField(help_text="The row, in words")
    outing = serializers.UUIDField()
    outing_name = serializers.CharField()
    field = serializers.CharField()
    stands = WordSerializer()
    other = WordSerializer()


class LookedAtSerializer(serializers.Serializer):
    change = serializers.UUIDField()
