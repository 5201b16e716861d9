"""The record of the deck."""

from nailwright.deck.models.captures import Capture, CaptureTally, Release
from nailwright.deck.models.gears import Gear, shape_of_gears
from nailwright.deck.models.handling import Event, Handling
from nailwright.deck.models.media import Photo, PhotoFile
from nailwright.deck.models.outings import Handover, Outing, Signature, Target, VisitGroups
from nailwright.deck.models.runs import Run, TrackPart, WaterReading

__all__ = [
    "Capture",
    "CaptureTally",
    "Event",
    "Gear",
    "Handling",
    "Handover",
    "Outing",
    "Photo",
    "PhotoFile",
    "Release",
    "Run",
    "Signature",
    "Target",
    "TrackPart",
    "VisitGroups",
    "WaterReading",
    "shape_of_gears",
]
