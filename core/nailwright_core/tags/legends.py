"""Numbers as finders read them off a tag: signs that look alike, signs that are worn away, numbers near to one another."""

from __future__ import annotations

import re
from itertools import product

from nailwright_core.common.errors import CoreError

#: Signs that are taken for one another on a small, worn legend.
LOOK_ALIKE = ("0O", "1IL")
#: So many ways to read one number are tried; beyond them it is read as written alone.
MOST_READINGS = 256
#: A legend has fewer signs; what is longer is a sentence.
LONGEST = 40
_ALIKE = {sign: group for group in LOOK_ALIKE for sign in group}


def readings(text: str) -> tuple[str, ...]:
    """The numbers that a finder may mean: as written first, then with blanks and hyphens left out, then with O for 0, I or l for 1.

    Args:
        text: as it was read off the tag, in any case, with blanks, hyphens or dots between.

    Raises:
        CoreError: ``tag_number_missing`` where no letter or digit stands there, ``tag_number_too_long``.
    """
    if len(text) > LONGEST:
        raise CoreError(
            "tag_number_too_long", f"Expected a number of at most {LONGEST} characters; got {len(text)}.", "number"
        )
    written = re.sub(r"[^A-Z0-9-]", "", text.upper())
    signs = written.replace("-", "")
    if not signs:
        raise CoreError(
            "tag_number_missing", f"Expected the letters and digits on the tag; got '{text.strip()[:20]}'.", "number"
        )
    choices = [_ALIKE.get(sign, sign) for sign in signs]
    ways = 1
    for each in choices:
        ways *= len(each)
    alike = map("".join, product(*choices)) if ways <= MOST_READINGS else ()
    return tuple(dict.fromkeys((written.strip("-"), signs, *alike)))


def part_pattern(text: str) -> str | None:
    """A regular expression for a number of which some signs cannot be read: "1?45" is one sign between 1 and 45, "1*5" any number
    of them; None where every sign was read.

    Args:
        text: letters, digits and hyphens, "?" for one sign and "*" for any number of them.
    """
    if "?" not in text and "*" not in text:
        return None
    kept = [each for each in text.upper() if each.isalnum() or each in "-?*"]
    return "".join({"?": "[A-Z0-9]", "*": "[A-Z0-9-]*"}.get(each, re.escape(each)) for each in kept)


def near_pattern(text: str) -> str:
    """A regular expression for numbers that differ from a written one by one sign: another sign, one too many, one missing, or two
    that changed places; whole numbers, hyphens not counted.

    Raises:
        CoreError: as ``readings``.
    """
    signs = readings(text)[0].replace("-", "")
    ways = {signs}
    for place in range(len(signs)):
        ways.add(f"{signs[:place]}[A-Z0-9]{signs[place + 1 :]}")
        if len(signs) > 2:
            ways.add(signs[:place] + signs[place + 1 :])
        if place + 1 < len(signs):
            ways.add(signs[:place] + signs[place + 1] + signs[place] + signs[place + 2 :])
    ways |= {f"{signs[:place]}[A-Z0-9]{signs[place:]}" for place in range(len(signs) + 1)}
    return f"^({'|'.join(sorted(ways))})$"
