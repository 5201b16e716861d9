"""Whether tags that were handed out are accounted for: handing out by handing out, with the numbers that are missing."""

from __future__ import annotations

from collections import Counter, defaultdict
from datetime import timedelta
from typing import Any
from uuid import UUID

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
    """Each handing out: to whom, how many were placed, damaged, lost, came back, and the numbers that are still out; those that do not
    balance first, then the newest."""
    issues = TagIssue.objects.filter(tag__programme=programme).select_related("tag", "person")
    groups: dict[UUID, list[TagIssue]] = defaultdict(list)
    for issue in issues.order_by("tag__kind", "tag__number"):
        groups[issue.doing_id or issue.pk].append(issue)
    told = [_told(key, group) for key, group in groups.items()]
    since = timezone.now() - SHOWN
    shown = [each for each in told if each["out"] or each["at"] > since]
    return sorted(shown, key=lambda each: (not each["out"], -each["at"].timestamp()))


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


def unbalanced(programme: Programme) -> list[dict[str, Any]]:
    """Handings out to a boat or an outing of an earlier day of which tags are neither placed, damaged, lost nor back."""
    before = timezone.now() - SOON
    return [each for each in handings_out(programme) if each["out"] and not each["person"] and each["at"] < before]
