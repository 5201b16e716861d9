"""What goes along for surgery, tagging, baths and angling, as it ships (common practice, no source)."""

from __future__ import annotations

#: Rows of the section ``kit``; the licensed person decides.
KIT = tuple(
    {"item": item, "n": n, "when": when}
    for when, item, n in (
        ("surgery", "scalpel with spare blades", None), ("surgery", "needle holder, forceps, scissors, sterile", 2),
        ("surgery", "absorbable suture with needle", None), ("surgery", "disinfectant and rinse for instruments and tags", None),
        ("surgery", "sterile gloves", None), ("surgery", "V-cradle or sling, wet", None), ("surgery", "water over the gills: hose or bottle", None),
        ("surgery", "sharps box", 1), ("surgery", "receiver or reader to prove each tag", 1),
        ("tags", "applicator and a spare", 2), ("tags", "disinfectant for needles", None), ("tags", "reader with spare batteries", 1),
        ("bath", "gloves and eye protection for the stock", None), ("bath", "thermometer and oxygen meter", 1),
        ("angling", "leader, hooks and line of the rig card", None), ("angling", "long-nosed pliers and side cutters", 1),
        ("angling", "rubber net and wet mat", 1),
    )
)  # fmt: skip
