"""Shape of an outing to be made."""

from __future__ import annotations

from rest_framework import serializers

from nailwright.common.rows import new_id
from nailwright.plan.day_field import day_field


class MakeOutingSerializer(serializers.Serializer):
    id = serializers.UUIDField(
        default=new_id, help_text="The outing's key, made by whoever asks: asked twice, one outing is made."
    )
    date = day_field()
    override = serializers.CharField(max_length=200, allow_blank=True, default="")
