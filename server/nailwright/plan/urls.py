"""Addresses of plans, part by part."""

from importlib import import_module

PARTS = ("surveys", "layout", "water", "electrofishing", "kit", "sample_size", "rehearsal", "seasons", "outings")

urlpatterns = [pattern for part in PARTS for pattern in import_module(f"nailwright.plan.{part}.urls").urlpatterns]
