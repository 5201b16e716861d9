"""The document of an outing, as tablets hold it, over HTTP."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.database import one_moment
from nailwright.deck import serializers
from nailwright.deck.http import PlainJson, outing_for
from nailwright.deck.outing.live import again_after, mark_of
from nailwright.deck.queries import deck_of, live_of, with_shown_places
from nailwright.programmes.people.short_codes import crew_codes
from nailwright.programmes.places import places_of
from nailwright.programmes.policies import may, person_of


class DeckView(APIView):
    """Everything the Deck needs to work an outing with no signal."""

    renderer_classes = [PlainJson]

    @extend_schema(operation_id="deck", responses=serializers.DeckSerializer)
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing, person = outing_for(request, outing_id), person_of(request)
        crew = crew_codes(outing.programme) if may(person, outing.programme, "keep_tags") else []
        # fish come aboard while it is read: a scan without its fish, a fish without its run would be none of the outing
        with one_moment():
            deck = with_shown_places(deck_of(outing), places_of(person, outing.programme))
            told = {**deck, "mark": mark_of(outing)[0], "crew": crew}
            return Response(serializers.DeckSerializer(told).data)


class DeckLiveView(APIView):
    """What others did to an outing since a tablet last read it; nothing of it where the mark still stands."""

    renderer_classes = [PlainJson]

    @extend_schema(
        operation_id="deck_live",
        parameters=[OpenApiParameter("mark", description="Of the answer before")],
        responses=serializers.DeckLiveSerializer,
    )
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing, person = outing_for(request, outing_id), person_of(request)
        with one_moment():
            mark, fish = mark_of(outing)
            told = {
                "mark": mark,
                "again_s": again_after(fish),
                "protocol": outing.protocol.number if outing.protocol else 0,
            }
            if mark != request.query_params.get("mark"):
                told["live"] = with_shown_places(live_of(outing), places_of(person, outing.programme))
            return Response(serializers.DeckLiveSerializer(told).data)
