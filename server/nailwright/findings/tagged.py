"""Which kinds of tag are in fish of a species, and which of them a finding is about."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.db.models import Count
from rest_framework import serializers

from nailwright.programmes.models import Programme
from nailwright.tags.models import Placement, TagKind
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import Species


class TagsInFishSerializer(serializers.Serializer):
    tag = serializers.ChoiceField(TagKind.choices)
    name = serializers.CharField()
    n = serializers.IntegerField(help_text="Placed in fish of the species")


@dataclass(frozen=True)
class Tagged:
    """The kind that is asked about, and how many tags of each kind are in fish of the species, most first."""

    tag: str
    kinds: list[tuple[str, int]]

    @property
    def label(self) -> str:
        """What the kind is called."""
        return str(TagKind(self.tag).label)

    def shown(self) -> list[dict[str, Any]]:
        """All kinds, as ``TagsInFishSerializer`` has them."""
        return [{"tag": tag, "name": str(TagKind(tag).label), "n": n} for tag, n in self.kinds]


def tagged_with(programme: Programme, species: Species, asked: str) -> Tagged:
    """What fish of a species carry.

    Args:
        asked: kind; empty: the one of which most are in fish, a PIT only where there is no other (it is seldom lost, and nobody sees it).

    Raises:
        CoreError: ``no_tags`` where no fish of the species carries one.
    """
    placed = Placement.present.filter(tag__programme=programme, fish__species=species.code).order_by()
    kinds = list(placed.values_list("tag__kind").annotate(n=Count("pk")).order_by("-n"))
    if not kinds:
        raise CoreError("no_tags", f"No {species.common_name} carries a tag of this programme yet.", "selection")
    tag = asked or next((each for each, _ in kinds if each != TagKind.PIT), kinds[0][0])
    return Tagged(tag, kinds)


def most_tagged(programme: Programme) -> str:
    """The species of which most carry a tag; empty where none does."""
    placed = Placement.present.filter(tag__programme=programme).order_by()
    most = placed.values("fish__species").annotate(n=Count("pk")).order_by("-n").first()
    return most["fish__species"] if most else ""
