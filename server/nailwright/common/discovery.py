"""What each app offers by a module of one name: lower floors use it without knowing who is above them."""

from __future__ import annotations

from functools import cache
from importlib import import_module
from importlib.util import find_spec
from typing import Any

from django.apps import apps


@cache
def in_each_app(module: str, name: str) -> tuple[Any, ...]:
    """``name`` of the module so called in every app of ours that has one."""
    found = [f"{app.name}.{module}" for app in apps.get_app_configs() if app.name.startswith("nailwright.")]
    return tuple(getattr(import_module(each), name) for each in found if find_spec(each))
