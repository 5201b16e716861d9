"""Shapes of rewards."""

from rest_framework import serializers


class RewardSerializer(serializers.Serializer):
    amount = serializers.FloatField(help_text="In the programme's currency")
    promised_at = serializers.DateTimeField()
    paid_at = serializers.DateTimeField(allow_null=True)
    proof = serializers.CharField()


class PaySerializer(serializers.Serializer):
    paid = serializers.BooleanField(help_text="False: it was not paid after all")
    proof = serializers.CharField(max_length=200, allow_blank=True, default="")
    reason = serializers.CharField(max_length=200, allow_blank=True, default="", help_text="Why it is taken back")


class DueSerializer(serializers.Serializer):
    report = serializers.UUIDField()
    number = serializers.CharField()
    amount = serializers.FloatField()
    promised_at = serializers.DateTimeField()
    finder = serializers.CharField(help_text="Empty where no contact is kept")


class BudgetSerializer(serializers.Serializer):
    """Numbers and sums, in the programme's currency."""

    currency = serializers.CharField()
    paid_n = serializers.IntegerField()
    paid = serializers.FloatField()
    promised_n = serializers.IntegerField()
    promised = serializers.FloatField()
    at_large_n = serializers.IntegerField(help_text="Tags with a reward that may still be reported")
    at_large = serializers.FloatField()
    due = DueSerializer(many=True)
