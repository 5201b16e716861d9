"""The steps of implanting a tag, as a versioned checklist (common practice, no source).

Competent, licensed hands and an animal-care protocol decide; a step that is skipped is recorded with its reason.
"""

from __future__ import annotations

#: Raised whenever a step is added, taken out or reworded; events keep the version that they went by.
VERSION = 2
#: Code and words, in order.
STEPS = (
    ("anaesthetised", "Anaesthetised: balance lost, gills still beat"),
    ("sling", "On its back in the wet sling, water running over the gills"),
    ("tag-proved", "Tag scanned, heard or magnet off; disinfected"),
    ("wiped", "Site wiped with antiseptic"),
    ("incision", "Cut beside the midline, no longer than the tag needs"),
    ("tag-in", "Tag in"),
    ("sutured", "Sutured"),
    ("external", "External tag applied for the finder"),
    ("recovery", "Into fresh water to recover"),
)
CAUTION = (
    "Blades, needles and drugs: trained, licensed hands under an animal-care protocol. Local code and permit decide. "
    "A fish whose gills stop goes back into fresh water at once, whatever step it is."
)
#: Gills and colour are asked for so often, s.
WATCH_EVERY_S = 60.0
