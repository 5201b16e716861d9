"""Shapes of the anglers' cards."""

from rest_framework import serializers

from nailwright.deck.serializers.ledger import PaperSizeSerializer


class StandingSerializer(serializers.Serializer):
    place = serializers.IntegerField(help_text="Equal totals share one")
    angler = serializers.CharField()
    total = serializers.FloatField()
    counted = serializers.IntegerField()
    fish = serializers.IntegerField()
    let_go = serializers.IntegerField()
    tagged_let_go = serializers.IntegerField()
    unmeasured = serializers.IntegerField()
    dead = serializers.IntegerField()


class WeighInSerializer(serializers.Serializer):
    species = serializers.CharField(help_text="Empty: of every species")
    by = serializers.ChoiceField(["weight", "length"])
    best = serializers.IntegerField(allow_null=True, help_text="Fish of each angler that count; null: all")
    unit = serializers.CharField()
    nobody = serializers.IntegerField(help_text="Fish whose angler nobody said")
    standings = StandingSerializer(many=True)


class AnglersSerializer(serializers.Serializer):
    names = serializers.ListField(child=serializers.CharField(), help_text="Who fished by rod, as the crew said it")
    results = WeighInSerializer(many=True, help_text="Places by what the protocol counts; none where it counts nothing")


class AnglerCardQuerySerializer(PaperSizeSerializer):
    angler = serializers.CharField(max_length=60)
    form = serializers.ChoiceField(["pdf", "csv", "report"], default="pdf")
