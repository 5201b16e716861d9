"""Handing tags out over HTTP: who has them may be an outing, which only the deck knows."""

from __future__ import annotations

from uuid import UUID

from django.db import transaction
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.deck.models import Outing
from nailwright.programmes.models import Membership, Programme
from nailwright.programmes.policies import person_of, programme_for
from nailwright.programmes.record.audit import Act
from nailwright.tags.handing_out import To, hand_back, hand_out, handed_out_by, tags_named
from nailwright.tags.serializers import HandedOutSerializer, HandOutSerializer
from nailwright.tags.stock import batch_of
from nailwright_core.common.errors import CoreError


class HandOutView(APIView):
    @extend_schema(operation_id="hand_out_tags", request=HandOutSerializer, responses=HandedOutSerializer)
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "keep_tags")
        asked = given(HandOutSerializer, request)
        act = Act(asked["id"], person_of(request), timezone.now())
        to = _to(programme, asked["person"], asked["boat"], asked["outing"])
        with transaction.atomic():
            batch = batch_of(programme, asked["batch"]) if asked["batch"] else None
            if asked["batch"] and batch is None:
                raise CoreError("batch_unknown", "There is no such batch in this programme.", "batch")
            tags = handed_out_by(act, programme)
            n = len(tags)
            if not tags:
                tags = tags_named(programme, asked["kind"], asked["numbers"], batch, asked["how_many"])
                n = hand_back(act, programme, tags) if asked["back"] else hand_out(act, programme, tags, to)
        told = {"n": n, "first": tags[0].number, "last": tags[-1].number}
        return Response(HandedOutSerializer(told).data)


def _to(programme: Programme, person: UUID | None, boat: str, outing: UUID | None) -> To:
    """Who is to have them; each has to be of the programme.

    Raises:
        CoreError: ``person_unknown``, ``outing_unknown``.
    """
    member = Membership.present.filter(programme=programme, person=person).select_related("person").first()
    if person and member is None:
        raise CoreError("person_unknown", "Nobody of this programme has that key.", "person")
    if outing and not Outing.objects.filter(pk=outing, programme=programme).exists():
        raise CoreError("outing_unknown", "There is no such outing in this programme.", "outing")
    return To(member.person if member else None, boat.strip(), outing)
