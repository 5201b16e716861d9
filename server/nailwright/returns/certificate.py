"""What a finder keeps: a picture to share, and a page to print."""

from __future__ import annotations

import textwrap

from django.template.loader import render_to_string

from nailwright.common.printing import font, page_size, pdf_of
from nailwright.returns.answering import story_for_finder
from nailwright.returns.letters import story_lines
from nailwright.returns.models import Return
from nailwright.returns.wording import say
from nailwright_core.common.errors import CoreError

_FIRST_Y, _STEP_Y, _WIDE = 290, 48, 66


def certificate_svg(report: Return, language: str) -> str:
    """The certificate as SVG that fetches nothing.

    Raises:
        CoreError: ``no_story`` where the finder was not told one.
    """
    story = story_for_finder(report)
    if story is None or not (report.told or report.state == Return.State.VERIFIED):
        raise CoreError("no_story", "There is no story to certify yet: a person will look at the report first.")
    lines = [part for line in story_lines(story, language) for part in textwrap.wrap(line, _WIDE)]
    shown = {
        "font": font(),
        "title": say(language, "certificate-title"),
        "programme": report.programme.name,
        "lines": [{"y": _FIRST_Y + _STEP_Y * place, "text": text} for place, text in enumerate(lines[:7])],
        "number": say(language, "certificate-number", number=report.tag.number if report.tag else report.number_text),
        "found": say(language, "certificate-found", date=report.found_on) if report.found_on else "",
    }
    return render_to_string("returns/certificate.svg", shown)


def certificate_pdf(report: Return, language: str, paper: str) -> bytes:
    """The same on a page, lying.

    Raises:
        CoreError: ``no_story``, ``paper_unknown``.
    """
    size = page_size(paper)
    style = f"@page {{ size: {size} landscape; margin: 12mm }} body {{ margin: 0 }} svg {{ width: 100%; height: auto }}"
    svg = certificate_svg(report, language)
    return pdf_of(f"<!doctype html><html lang='{language}'><style>{style}</style><body>{svg}</body></html>")
