"""What the views of records share."""

from __future__ import annotations

from collections.abc import Iterable
from uuid import UUID

from django.http import StreamingHttpResponse
from rest_framework.request import Request

from nailwright.programmes.models import Programme
from nailwright.programmes.policies import person_of, programme_for
from nailwright.programmes.species.known import species_of
from nailwright.records import serializers


def attached(pieces: Iterable[str] | Iterable[bytes], kind: str, name: str) -> StreamingHttpResponse:
    """A file to take home, sent as it is made."""
    kind = f"{kind}; charset=utf-8" if kind == "text/csv" else kind
    response = StreamingHttpResponse(pieces, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


def asked_marks(request: Request, programme_id: UUID) -> tuple[Programme, str]:
    """Whose marks are taken home, and of which species (empty: of all).

    Raises:
        CoreError: ``species_unknown``.
    """
    programme = programme_for(person_of(request), programme_id, "export_rows")
    asked = serializers.OfSpeciesSerializer(data=request.query_params)
    asked.is_valid(raise_exception=True)
    code = asked.validated_data["species"]
    return programme, species_of(programme)[code].code if code else ""
