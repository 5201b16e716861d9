"""Runs over HTTP."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.deck.http import outing_for
from nailwright.deck.runs.passes import passes_of
from nailwright.deck.runs.tracks import tracks_of
from nailwright.deck.serializers.passes import PassesSerializer
from nailwright.deck.serializers.tracks import TrackSerializer
from nailwright.programmes.places import places_of
from nailwright.programmes.policies import person_of


class PassesView(APIView):
    """Passes at each site of an outing so far: what they say, whether another is worth it, and the last visit there."""

    @extend_schema(operation_id="passes", responses=PassesSerializer(many=True))
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing = outing_for(request, outing_id)
        places = places_of(person_of(request), outing.programme)
        return Response(PassesSerializer(passes_of(outing, places), many=True).data)


class TracksView(APIView):
    """Where each run of an outing went. Nobody is told who may not see places of all species: a run's line is where fish were."""

    @extend_schema(operation_id="tracks", responses=TrackSerializer(many=True))
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing = outing_for(request, outing_id)
        shown = [] if places_of(person_of(request), outing.programme).hidden else tracks_of(outing)
        return Response(TrackSerializer(shown, many=True).data)
