"""How people write that a cell holds nothing. "none" is not among them: of a scan it says that no mark was found."""

from __future__ import annotations

from collections.abc import Collection

#: In small letters. Dashes of every length; "not available", "not determined", "keine Angabe", "sans objet", "ikke oppgitt".
MISSING = frozenset(
    (
        "-",
        "--",
        "---",
        "\u2013",
        "\u2014",
        ".",
        "..",
        "?",
        "n/a",
        "na",
        "n.a.",
        "#n/a",
        "nan",
        "null",
        "nd",
        "n.d.",
        "k.a.",
        "k. a.",
        "s.o.",
        "i.o.",
    )
)


def is_missing(text: str, more: Collection[str] = ()) -> bool:
    """Whether a cell says that it holds nothing, in one of the usual ways or in one of ``more``, in small letters."""
    plain = text.strip().lower()
    return plain in MISSING or plain in more
