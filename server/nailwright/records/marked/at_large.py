"""Tags at large for other programmes: what they need to know whose a fish is, and whom to tell."""

from __future__ import annotations

import csv
from collections.abc import Iterator

from nailwright.common.spreadsheets import harmless
from nailwright.programmes.models import Programme
from nailwright.programmes.places import public_places
from nailwright.programmes.species.known import species_of
from nailwright.records.csv_rows import Line
from nailwright.records.licence import in_each_line
from nailwright.returns.models import PublicPage
from nailwright.tags.exchange import COLUMNS
from nailwright.tags.models import Encounter, Placement


def at_large_csv(programme: Programme) -> Iterator[str]:
    """Lines of the CSV: every tag in a living fish, with places to a tenth of a degree, and none of protected species."""
    table, places, stands = species_of(programme), public_places(programme), in_each_line(programme)
    writer = csv.writer(Line())
    yield writer.writerow([*(name for name, *_ in COLUMNS), *stands])
    met = {
        (each.fish_id, each.source_id): each
        for each in Encounter.objects.filter(fish__programme=programme).select_related("site__water")
    }
    contact = _contact(programme)
    rows = (
        Placement.present.filter(tag__programme=programme).exclude(living_tag=None).select_related("tag__batch", "fish")
    )
    for each in rows.order_by("tag__kind", "tag__number"):
        where = met.get((each.fish_id, each.capture_id))
        site = where.site if where else None
        shown = where if where and places.show(where.site_id, each.fish.species) else None
        told = (
            programme.name,
            each.tag.kind,
            each.tag.number,
            each.tag.batch.colour if each.tag.batch else None,
            table[each.fish.species].scientific_name,
            each.device_time.date().isoformat(),
            site.water.name if site else None,
            _roughly(shown.lat if shown else None),
            _roughly(shown.lon if shown else None),
            contact,
        )
        yield writer.writerow(["" if value is None else harmless(value) for value in (*told, *stands.values())])


def _roughly(degrees: float | None) -> float | None:
    return None if degrees is None else round(degrees, 1)


def _contact(programme: Programme) -> str:
    page = PublicPage.objects.filter(programme=programme).first()
    return ", ".join(filter(None, (page.email, page.telephone))) if page else ""
