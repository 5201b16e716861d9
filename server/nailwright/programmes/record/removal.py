"""Deleting a whole programme: what belongs to it is found by the keys between the tables, so that no later table is forgotten."""

from __future__ import annotations

from graphlib import TopologicalSorter

from django.apps import apps
from django.db import models, transaction

from nailwright.programmes.models import Programme
from nailwright.programmes.people.beginning import demo_people

Model = type[models.Model]


@transaction.atomic
def take_out_demo() -> list[str]:
    """Delete every made-up programme, and those of its people who are in no other; gives the programmes' names."""
    made_up = Programme.objects.filter(demo=True)
    names = list(made_up.values_list("name", flat=True))
    for programme in made_up:
        delete_programme(programme)
    demo_people().filter(memberships=None).delete()
    return names


def delete_programme(programme: Programme) -> None:
    """Delete all rows that lead to a programme, those that point at others before the others, and then itself."""
    paths = paths_to_programme()
    order = TopologicalSorter({each: _pointing_at(each, paths) for each in paths}).static_order()
    # what only names its programme is kept by triggers of the other tables: it goes after them, or they would make it anew
    for model in sorted(order, key=_only_names_it):
        if model is not Programme:
            model._base_manager.filter(**{paths[model]: programme.pk}).delete()
    programme.delete()


def _only_names_it(model: Model) -> bool:
    return model is not Programme and not any(field.is_relation for field in model._meta.concrete_fields)


def paths_to_programme() -> dict[Model, str]:
    """By which lookup each table leads to its programme, the shortest one; tables that lead to none are not there."""
    paths: dict[Model, str] = {Programme: "pk"}
    found = True
    while found:
        reached = {}
        for model in apps.get_models():
            if model in paths:
                continue
            for field in model._meta.concrete_fields:
                if field.name == "programme_id" and not field.is_relation:
                    reached[model] = "programme_id"
                elif field.related_model in paths and not field.null:
                    up = paths[field.related_model]
                    reached.setdefault(model, field.attname if up == "pk" else f"{field.name}__{up}")
        paths |= reached
        found = bool(reached)
    return paths


def _pointing_at(model: Model, among: dict[Model, str]) -> set[Model]:
    """The tables that hold keys of this one's rows: they go first."""
    return {
        each
        for each in among
        if each is not model and any(field.related_model is model for field in each._meta.concrete_fields)
    }
