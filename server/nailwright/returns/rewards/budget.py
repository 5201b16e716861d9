"""What rewards cost: paid, promised, and what may still come."""

from __future__ import annotations

from typing import Any

from django.db.models import Count, Q, Sum

from nailwright.programmes.models import Programme
from nailwright.returns.models import Reward
from nailwright.tags.models import Tag, TagState

#: Of these tags a report may still come.
_AT_LARGE = (TagState.PLACED, TagState.SHED, TagState.LOST)


def budget_of(programme: Programme) -> dict[str, Any]:
    """How many rewards and how much is paid, promised, and out on tags that nobody reported yet; with what is to be paid."""
    rewards = Reward.objects.filter(report__programme=programme)
    told = rewards.aggregate(
        paid_n=Count("pk", filter=Q(paid_at__isnull=False)),
        paid=Sum("amount", filter=Q(paid_at__isnull=False)),
        promised_n=Count("pk", filter=Q(paid_at=None)),
        promised=Sum("amount", filter=Q(paid_at=None)),
    )
    out = Tag.objects.filter(programme=programme, batch__reward__isnull=False, state__in=_AT_LARGE)
    at_large = out.exclude(pk__in=rewards.values("report__tag")).aggregate(n=Count("pk"), sum=Sum("batch__reward"))
    due = rewards.filter(paid_at=None).select_related("report__tag", "report__finder").order_by("promised_at")
    return {
        "currency": programme.currency,
        **{name: value or 0 for name, value in told.items()},
        "at_large_n": at_large["n"],
        "at_large": at_large["sum"] or 0,
        "due": [
            {
                "report": each.report_id,
                "number": each.report.tag.number if each.report.tag else each.report.number_text,
                "amount": each.amount,
                "promised_at": each.promised_at,
                "finder": getattr(getattr(each.report, "finder", None), "name", ""),
            }
            for each in due
        ],
    }
