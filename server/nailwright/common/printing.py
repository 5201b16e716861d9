"""What is printed: PDF from HTML, in the screens' own font, so that paper and tablet read alike."""

from __future__ import annotations

import base64
from functools import cache
from pathlib import Path

from nailwright_core.common.errors import CoreError

#: SIL Open Font License, beside it.
_FONT = Path(__file__).parent / "fonts" / "atkinson-hyperlegible-next-latin-wght-normal.woff2"
PAPERS = {"a4": "A4", "letter": "letter"}


@cache
def font() -> str:
    """The font as base64, for a page that fetches nothing."""
    return base64.b64encode(_FONT.read_bytes()).decode()


def page_size(paper: str) -> str:
    """The size of a page as CSS has it, for "a4" or "letter".

    Raises:
        CoreError: ``paper_unknown``.
    """
    if paper not in PAPERS:
        raise CoreError("paper_unknown", f"Expected {' or '.join(PAPERS)}; got '{paper[:20]}'.", "paper")
    return PAPERS[paper]


def pdf_of(html: str) -> bytes:
    """The page as PDF. Nothing is fetched from outside while it is made."""
    from weasyprint import HTML, URLFetcher  # takes a second to load, and most processes print nothing

    return bytes(HTML(string=html, url_fetcher=URLFetcher(allowed_protocols={"data"})).write_pdf())
