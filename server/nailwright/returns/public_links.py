"""The private link of a report: who holds it may see its answer and have the contact erased."""

from __future__ import annotations

from uuid import UUID

from django.core.signing import BadSignature, Signer
from django.http import Http404

from nailwright.returns.models import Return

_SIGNER = Signer(salt="returns.report", sep=".")


def key_of(report: Return) -> str:
    """What stands in the link."""
    return _SIGNER.sign(report.pk.hex)


def report_of(key: str) -> Return:
    """The report of a link.

    Raises:
        Http404: it was altered, or there is no such report any more.
    """
    try:
        report = UUID(_SIGNER.unsign(key))
    except (BadSignature, ValueError) as error:
        raise Http404 from error
    found = Return.objects.select_related("programme__public_page", "fish", "tag").filter(pk=report).first()
    if found is None:
        raise Http404
    return found
