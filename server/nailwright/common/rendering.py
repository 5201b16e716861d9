"""JSON as it leaves: a number that is not finite is null, since JSON has none."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from rest_framework.renderers import JSONRenderer


def finite(value: Any) -> Any:
    """A value with null where a number is not finite: a fit may run off to infinity."""
    if isinstance(value, float):
        return value if math.isfinite(value) else None
    if isinstance(value, Mapping):
        return {name: finite(each) for name, each in value.items()}
    if isinstance(value, list | tuple):
        return [finite(each) for each in value]
    return value


class Json(JSONRenderer):
    """Django REST framework's, which refuses what is not finite; looked through only then."""

    def render(self, data: Any, *args: Any, **kwargs: Any) -> Any:
        try:
            return super().render(data, *args, **kwargs)
        except ValueError:
            return super().render(finite(data), *args, **kwargs)
