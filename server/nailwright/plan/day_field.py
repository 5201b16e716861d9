"""A day on which somebody may plan something."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.core.validators import MaxValueValidator, MinValueValidator
from rest_framework import serializers

_FIRST_DAY, _LAST_DAY = date(1900, 1, 1), date(2199, 12, 31)


def day_field(**more: Any) -> serializers.DateField:
    """A day on which somebody may plan something; what lies farther off is a slip of the keys."""
    words = f"Expected a day from {_FIRST_DAY} to {_LAST_DAY}."
    ends = [MinValueValidator(_FIRST_DAY, words), MaxValueValidator(_LAST_DAY, words)]
    return serializers.DateField(validators=ends, **more)
