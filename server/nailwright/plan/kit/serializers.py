"""Shapes of what goes along."""

from __future__ import annotations

from rest_framework import serializers


class WellSerializer(serializers.Serializer):
    fish_g = serializers.FloatField()
    most = serializers.IntegerField()


class BathShownSerializer(serializers.Serializer):
    agent = serializers.CharField()
    stock_mg_ml = serializers.FloatField()
    litres = serializers.FloatField()
    low_mg_l = serializers.FloatField()
    high_mg_l = serializers.FloatField()
    stock_ml = serializers.FloatField()
    caps = serializers.FloatField()
    spare_ml = serializers.FloatField()
    line = serializers.CharField()
    note = serializers.CharField()
    caution = serializers.CharField()


class LimitsShownSerializer(serializers.Serializer):
    well_fish = WellSerializer(many=True)
    lines = serializers.ListField(child=serializers.CharField())


class TagKindShownSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField()
    fits = serializers.BooleanField()
    against = serializers.ListField(child=serializers.CharField())
    affordable = serializers.IntegerField()
    smallest_mm = serializers.FloatField(allow_null=True)
    years = serializers.FloatField()
    cannot = serializers.CharField()
    needs = serializers.CharField()


class TagsShownSerializer(serializers.Serializer):
    species = serializers.CharField()
    smallest_mm = serializers.FloatField()
    smallest_low = serializers.FloatField()
    smallest_high = serializers.FloatField()
    own_line = serializers.BooleanField()
    battery_days = serializers.FloatField()
    last_ping = serializers.DateField()
    collision = serializers.FloatField()
    most_in_reach = serializers.IntegerField()
    in_stock = serializers.IntegerField()
    first_number = serializers.CharField()
    last_number = serializers.CharField()
    double = serializers.ListField(child=serializers.IntegerField())
    high_reward = serializers.ListField(child=serializers.IntegerField())
    kinds = TagKindShownSerializer(many=True)


class DeepRowSerializer(serializers.Serializer):
    depth_m = serializers.FloatField()
    fish_g = serializers.FloatField()
    release_m = serializers.FloatField()
    sinker_g = serializers.FloatField()
    pulls = serializers.IntegerField(allow_null=True)
    lets_go_m = serializers.FloatField(allow_null=True)
    excess = serializers.FloatField()


class DeviceSerializer(serializers.Serializer):
    name = serializers.CharField()
    fits = serializers.BooleanField()
    reasons = serializers.ListField(child=serializers.CharField())


class DeepSerializer(serializers.Serializer):
    ways = serializers.CharField(help_text="What the protocol allows")
    share = serializers.FloatField(help_text="Of the depth from which a fish may be let go")
    water = serializers.CharField()
    rows = DeepRowSerializer(many=True)
    devices = DeviceSerializer(many=True)


class KitSerializer(serializers.Serializer):
    limits = LimitsShownSerializer()
    bath = BathShownSerializer(allow_null=True)
    bath_refused = serializers.CharField(allow_blank=True)
    tags = TagsShownSerializer(allow_null=True)
    tags_refused = serializers.CharField(allow_blank=True)
    deep = DeepSerializer()
    rod_hours = serializers.FloatField(help_text="Of the angling plan, in each zone")
    questions = serializers.ListField(child=serializers.CharField(), help_text="What a choice of tags may be for")
