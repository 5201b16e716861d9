"""Whether tags that were handed out are accounted for: handing out by handing out, with the numbers that are missing."""

from __future__ import annotations

from collections import Counter, defaultdict
from datetime import timedelta
from typing import Any
from uuid import UUID

from django.db.models import Q, QuerySet
from django.utils import timezone

from nailwright.programmes.models import Programme
from nailwright.tags.models import TagIssue, TagState

#: What became of a tag that was handed out, by where it is now; one that came back is told by its issue.
BECAME = {
    TagState.PLACED: "placed",
    TagState.SHED: "placed",
    TagState.REMOVED: "placed",
    TagState.ELSEWHERE: "placed",
    TagState.SPOILED: "damaged",
    TagState.DESTROYED: "damaged",
    TagState.LOST: "lost",
}
#: Handings out that are settled are shown for so long; of a boat and an outing the next day asks.
SHOWN, SOON = timedelta(days=60), timedelta(hours=18)
MOST_NAMED = 200


def handings_out(programme: Programme) -> list[dict[str, Any]]:
    """Each handing out of late, and every one of which tags are still out: to whom, how many were placed, damaged, lost, came back, and
    the numbers that are out; those that do not balance first, then the newest."""
    issues = TagIssue.objects.filter(tag__programme=programme)
    late = issues.filter(Q(pk__in=_out(programme).values("pk")) | Q(issued_at__gt=timezone.now() - SHOWN))
    doings = set(late.order_by().values_list("doing_id", flat=True).distinct())
    rows = issues.filter(Q(doing_id__in=doings - {None}) | Q(doing_id=None, pk__in=late.values("pk")))
    groups: dict[UUID, list[TagIssue]] = defaultdict(list)
    for issue in rows.select_related("tag", "person").order_by("tag__kind", "tag__number"):
        groups[issue.doing_id or issue.pk].append(issue)
    told = [_told(key, group) for key, group in groups.items()]
    return sorted(told, key=lambda each: (not each["out"], -each["at"].timestamp()))


def _out(programme: Programme) -> QuerySet[TagIssue]:
    """Tags that are with their holder still, or missing."""
    return TagIssue.objects.filter(tag__programme=programme, returned_at=None).exclude(tag__state__in=BECAME)


def _told(key: UUID, group: list[TagIssue]) -> dict[str, Any]:
    first = group[0]
    became = Counter("returned" if each.returned_at else BECAME.get(TagState(each.tag.state), "out") for each in group)
    out = [each.tag.number for each in group if not each.returned_at and each.tag.state not in BECAME]
    return {
        "id": key,
        "at": first.issued_at,
        "kind": first.tag.kind,
        "person": first.person.name if first.person else "",
        "boat": first.boat,
        "outing": first.outing_id,
        "issued": len(group),
        **{name: became[name] for name in ("placed", "damaged", "lost", "returned", "out")},
        "missing": out[:MOST_NAMED],
    }


def unaccounted(programme: Programme) -> list[str]:
    """Numbers handed out to a boat or an outing of an earlier day that are neither placed, damaged, lost nor back."""
    before = timezone.now() - SOON
    rows = _out(programme).filter(person=None, issued_at__lt=before).order_by("tag__kind", "tag__number")
    return list(rows.values_list("tag__number", flat=True))
