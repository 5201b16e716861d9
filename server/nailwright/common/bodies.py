"""What a request's body holds."""

from __future__ import annotations

from typing import Any

from rest_framework.request import Request
from rest_framework.serializers import Serializer


def given(serializer: type[Serializer], request: Request) -> dict[str, Any]:
    """The checked values of a body.

    Raises:
        rest_framework.serializers.ValidationError: with the field and what was expected of it.
    """
    read = serializer(data=request.data)
    read.is_valid(raise_exception=True)
    return dict(read.validated_data)
