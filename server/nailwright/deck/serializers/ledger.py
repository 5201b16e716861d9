"""Shapes of the day's ledger."""

from rest_framework import serializers


class LedgerRowSerializer(serializers.Serializer):
    """Fish of a species by how they left."""

    species = serializers.CharField(help_text="Empty for all of them")
    name = serializers.CharField()
    came = serializers.IntegerField()
    aboard = serializers.IntegerField()
    released = serializers.IntegerField()
    dead = serializers.IntegerField()
    kept = serializers.IntegerField()
    escaped = serializers.IntegerField()
    taken = serializers.IntegerField()
    strengths = serializers.ListField(child=serializers.IntegerField(), help_text="Of those released: 1 to 4")
    deaths = serializers.CharField(help_text="Deaths with their interval, in words; empty where nothing has left")


class LedgerSerializer(serializers.Serializer):
    rows = LedgerRowSerializer(many=True)
    total = LedgerRowSerializer()
    open = serializers.ListField(child=serializers.CharField(), help_text="What is not complete yet, in sentences")
    done = serializers.ListField(child=serializers.CharField(), help_text="Against what was wanted, in sentences")
    handled = serializers.ListField(child=serializers.CharField(), help_text="How fish were handled, in sentences")


class PaperSizeSerializer(serializers.Serializer):
    paper = serializers.ChoiceField(["a4", "letter"], default="a4")
