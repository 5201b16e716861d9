"""Gears, as runs and plans name them."""

from __future__ import annotations

from django.db import models

from nailwright.common.shaped_json import CODES, Shape


class Gear(models.TextChoices):
    """Core's ``deck.gears``, which knows what each counts."""

    BOAT = "boat_electrofishing", "Boat electrofishing"
    BACKPACK = "backpack_electrofishing", "Backpack electrofishing"
    TOW_BARGE = "towbarge_electrofishing", "Tow-barge electrofishing"
    SHORE = "shore_electrofishing", "Shore electrofishing"
    ANGLING = "angling", "Angling"
    ICE = "ice_fishing", "Ice fishing"
    GILL_NET = "gill_net", "Gill net"
    TRAP_NET = "trap_net", "Trap net"
    FYKE_NET = "fyke_net", "Fyke net"
    SEINE = "seine", "Seine"
    TRAWL = "trawl", "Trawl"


def shape_of_gears() -> Shape:
    return {**CODES, "items": {"enum": Gear.values}}
