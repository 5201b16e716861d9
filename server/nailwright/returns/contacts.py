"""How to reach finders: kept as long as it serves its purpose."""

from __future__ import annotations

from datetime import timedelta

from django.db.models import QuerySet
from django.utils import timezone

from nailwright.programmes.models import Programme
from nailwright.returns.models import Finder, PublicPage, Return

_KEPT_DAYS = PublicPage._meta.get_field("contact_days").default


def erase_contact(report: Return) -> bool:
    """Erase how to reach the finder of a report; whether there was anything."""
    return bool(_erase(Finder.objects.filter(report=report, erased_at=None)))


def erase_due(programme: Programme) -> int:
    """Erase the contacts of reports that were decided long enough ago; how many."""
    page = PublicPage.objects.filter(programme=programme).first()
    days = page.contact_days if page else _KEPT_DAYS
    decided = timezone.now() - timedelta(days=days)
    states = (Return.State.VERIFIED, Return.State.REJECTED)
    due = Finder.objects.filter(report__programme=programme, report__state__in=states, report__decided_at__lt=decided)
    return _erase(due.filter(erased_at=None))


def _erase(rows: QuerySet[Finder]) -> int:
    return rows.update(name="", email="", telephone="", post="", guardian="", erased_at=timezone.now())
