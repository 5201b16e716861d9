"""The public page of a programme: its settings, what it shows, its notice for the landing."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

import segno
from django.db import IntegrityError, transaction
from django.http import Http404
from django.template.loader import render_to_string

from nailwright.common.printing import font, page_size, pdf_of
from nailwright.common.rows import new_id
from nailwright.programmes.models import Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright.programmes.species.known import species_of
from nailwright.returns.models import PublicPage
from nailwright.returns.wording import languages, nearest, say
from nailwright.waters.reaches import layers_of
from nailwright_core.common.errors import CoreError

_ADDRESS = re.compile(r"[a-z0-9](?:[a-z0-9-]{1,22})[a-z0-9]")


def settings_of(programme: Programme) -> PublicPage:
    """Its page; one that is closed and not saved where nobody has made any."""
    page = PublicPage.objects.filter(programme=programme).first()
    return page or PublicPage(programme=programme, address=_free_address(programme.name))


def _free_address(name: str) -> str:
    words = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:20].strip("-")
    base = words if _ADDRESS.fullmatch(words) else "report"
    taken = set(PublicPage.objects.filter(address__startswith=base).values_list("address", flat=True))
    return next(each for n in range(1, 10_000) if (each := base if n == 1 else f"{base}-{n}") not in taken)


def change_page(act: Act, programme: Programme, values: Mapping[str, Any]) -> PublicPage:
    """Set up or change the public page.

    Raises:
        CoreError: ``address_unusable``, ``address_taken``, ``page_without_contact``. Refused: ``role_may_not``.
    """
    require(act.person, programme, "lead")
    address = values["address"].strip().lower()
    values = {**values, "address": address}
    if not _ADDRESS.fullmatch(address):
        raise CoreError(
            "address_unusable", f"Expected 3 to 24 small letters, digits and hyphens; got '{address[:24]}'.", "address"
        )
    if values.get("open") and not (values.get("telephone", "").strip() or values.get("email", "").strip()):
        raise CoreError(
            "page_without_contact",
            "Finders need another way to reach you: a telephone number or an e-mail address.",
            "telephone",
        )
    try:
        with transaction.atomic():
            page, _ = PublicPage.objects.select_for_update().get_or_create(
                programme=programme, defaults={"id": new_id(), "address": address}
            )
            apply_change(act, programme, page, values)
    except IntegrityError as error:
        raise CoreError(
            "address_taken", f"'{address}' is the address of another page here. Choose another.", "address"
        ) from error
    return page


def page_at(address: str) -> PublicPage:
    """The open page at a short address.

    Raises:
        Http404: there is none, or it is closed.
    """
    page = PublicPage.objects.select_related("programme").filter(address=address.lower(), open=True).first()
    if page is None:
        raise Http404
    return page


def shown_page(page: PublicPage) -> dict[str, Any]:
    """What everybody sees of it."""
    programme = page.programme
    table = species_of(programme)
    kinds = [table[each.code] for each in programme.listed_species if each.code in table]
    return {
        "programme": programme.name,
        "telephone": page.telephone,
        "email": page.email,
        "greeting": page.greeting,
        "languages": list(languages()),
        "contact_days": page.contact_days,
        "length_unit": programme.length_unit,
        "species": [
            {"code": each.code, "name": each.common_name, "scientific": each.scientific_name} for each in kinds
        ],
    }


def waters_shown(page: PublicPage) -> list[dict[str, Any]]:
    """Outlines of the programme's waters, as a map has them; nothing of sites or fish."""
    return [{name: each[name] for name in ("name", "kind", "line")} for each in layers_of(page.programme)]


def notice_pdf(page: PublicPage, link: str, paper: str, language: str) -> bytes:
    """A notice for boat ramps and tackle shops, with the page's address as a QR code.

    Raises:
        CoreError: ``page_closed`` where finders would find nothing there, ``paper_unknown``.
    """
    if not page.open:
        raise CoreError("page_closed", "Open the public page first: the notice leads finders to it.", "open")
    language = nearest(language)
    code = segno.make(link, error="m").svg_inline(scale=8, border=2, dark="#0f3d3a")
    words = {key: say(language, f"notice-{key}") for key in ("title", "ask", "steps", "give", "keep", "privacy")}
    shown = {
        "paper": page_size(paper),
        "font": font(),
        "page": page,
        "link": link,
        "code": code,
        "language": language,
        "words": words,
        "reach": say(language, "notice-reach"),
    }
    return pdf_of(render_to_string("returns/notice.html", shown))
