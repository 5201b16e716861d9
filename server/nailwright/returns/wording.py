"""Words of public pages and letters, from one catalogue a language (``languages/*.ftl``, Project Fluent): a further language is one
more file."""

from __future__ import annotations

from functools import cache
from pathlib import Path
from typing import Any

from fluent.runtime import FluentBundle, FluentResource

FOLDER = Path(__file__).parent / "languages"
FIRST = "en"
#: How days and numbers are written where the language alone does not say.
_LOCALES = {"en": "en-GB"}


@cache
def languages() -> tuple[str, ...]:
    """Codes of the languages there are, English first."""
    found = sorted(each.stem for each in FOLDER.glob("*.ftl"))
    return (FIRST, *(each for each in found if each != FIRST))


def nearest(language: str) -> str:
    """The language of the catalogue that serves for one that was asked for; English where none does."""
    return next((each for each in (language, language.split("-")[0]) if each in languages()), FIRST)


@cache
def _bundle(language: str) -> FluentBundle:
    bundle = FluentBundle([_LOCALES.get(language, language)], use_isolating=False)
    bundle.add_resource(FluentResource((FOLDER / f"{language}.ftl").read_text(encoding="utf-8")))
    return bundle


def say(language: str, key: str, **values: Any) -> str:
    """A text of the catalogue with its values put in.

    Raises:
        KeyError: there is no such text in the language; a test holds the catalogues to the same keys.
    """
    bundle = _bundle(nearest(language))
    pattern = bundle.get_message(key).value
    if pattern is None:
        raise KeyError(f"{key} has no text in '{language}'")
    text, errors = bundle.format_pattern(pattern, values)
    if errors:
        raise KeyError(f"{key}: {errors}")
    return str(text)
