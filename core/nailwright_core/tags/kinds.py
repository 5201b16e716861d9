"""Kinds of tag; for visible ones the head is part of the kind, since it decides how they are placed and lost."""

#: Code and word of each.
TAG_KINDS = (
    ("pit", "PIT"),
    ("tbar", "T-bar"),
    ("dart", "Dart, one barb"),
    ("dart2", "Dart, two barbs"),
    ("metal", "Metal head"),
    ("disc", "Disc"),
    ("acoustic", "Acoustic"),
    ("radio", "Radio"),
    ("satellite", "Satellite"),
    ("archival", "Archival"),
)
