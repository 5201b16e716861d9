"""Where a Deck hears the instruments."""

from rest_framework import serializers


class InstrumentsSerializer(serializers.Serializer):
    stream = serializers.CharField(
        help_text="Address of server-sent events; empty where there is no gateway, or none to be heard"
    )
    play = serializers.CharField(help_text="Where stand-ins are told what to do; empty where the instruments are real")
    simulated = serializers.BooleanField(help_text="They are stand-ins, and no reading of them is one of a fish")
