"""Shapes of the anglers' cards."""

from rest_framework import serializers

from nailwright.deck.serializers.ledger import PaperSizeSerializer


class AnglersSerializer(serializers.Serializer):
    names = serializers.ListField(child=serializers.CharField(), help_text="Who fished by rod, as the crew said it")


class AnglerCardQuerySerializer(PaperSizeSerializer):
    angler = serializers.CharField(max_length=60)
    form = serializers.ChoiceField(["pdf", "csv"], default="pdf")
