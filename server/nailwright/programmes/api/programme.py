"""Programmes over HTTP: begun, changed, their species."""

from __future__ import annotations

from uuid import UUID

from django.contrib.auth import login
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.programmes import serializers
from nailwright.programmes.api.session import BACKEND, session_of
from nailwright.programmes.people.beginning import begin_another, change_programme, claim
from nailwright.programmes.people.signing_in import counted
from nailwright.programmes.policies import person_of, programme_for
from nailwright.programmes.queries import species_lists
from nailwright.programmes.record.acts import act_of
from nailwright.programmes.species.chosen import set_species
from nailwright.programmes.species.known import species_of
from nailwright.programmes.species.own import as_shipped, describe_species
from nailwright_core.common.species_values import species_values


class FirstView(APIView):
    """Makes the first account of an installation and its programme, with the code that the server printed."""

    permission_classes = [AllowAny]

    @extend_schema(operation_id="claim", request=serializers.ClaimSerializer, responses=serializers.SessionSerializer)
    def post(self, request: Request) -> Response:
        values = given(serializers.ClaimSerializer, request)
        with counted(request._request, "first code"):
            person = claim(values["code"], dict(values["person"]), dict(values["programme"]))
        login(request, person, backend=BACKEND)
        return Response(session_of(request))


class ProgrammesView(APIView):
    @extend_schema(
        operation_id="begin_programme",
        request=serializers.ProgrammeSerializer,
        responses={201: serializers.SessionSerializer},
    )
    def post(self, request: Request) -> Response:
        begin_another(person_of(request), given(serializers.ProgrammeSerializer, request))
        return Response(session_of(request), status.HTTP_201_CREATED)


class ProgrammeView(APIView):
    @extend_schema(operation_id="programme", responses=serializers.ProgrammeSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.ProgrammeSerializer(programme).data)

    @extend_schema(
        operation_id="change_programme",
        request=serializers.ChangeProgrammeSerializer,
        responses=serializers.ProgrammeSerializer,
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "lead")
        values = given(serializers.ChangeProgrammeSerializer, request)
        return Response(serializers.ProgrammeSerializer(change_programme(act_of(request), programme, values)).data)


class SpeciesView(APIView):
    """Species that can be called, those that were, and all that are known here."""

    @extend_schema(operation_id="species", responses=serializers.SpeciesListSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.SpeciesListSerializer(species_lists(programme)).data)

    @extend_schema(
        operation_id="set_species",
        request=serializers.SetSpeciesSerializer,
        responses=serializers.SpeciesListSerializer,
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "choose_species")
        set_species(act_of(request), programme, given(serializers.SetSpeciesSerializer, request)["codes"])
        return Response(serializers.SpeciesListSerializer(species_lists(programme)).data)


class OneSpeciesView(APIView):
    """What the programme knows of a species; a post describes it, or a new one, for this programme."""

    @extend_schema(operation_id="species_values", responses=serializers.SpeciesValuesSerializer)
    def get(self, request: Request, programme_id: UUID, code: str) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(species_values(species_of(programme)[code]))

    @extend_schema(
        operation_id="describe_species",
        request=serializers.SpeciesValuesSerializer,
        responses=serializers.SpeciesValuesSerializer,
    )
    def post(self, request: Request, programme_id: UUID, code: str) -> Response:
        programme = programme_for(person_of(request), programme_id, "choose_species")
        values = given(serializers.SpeciesValuesSerializer, request)
        return Response(species_values(describe_species(act_of(request), programme, code, values)))


class AsShippedView(APIView):
    """A species is known as it ships again."""

    @extend_schema(operation_id="species_as_shipped", request=None, responses=serializers.SpeciesValuesSerializer)
    def post(self, request: Request, programme_id: UUID, code: str) -> Response:
        programme = programme_for(person_of(request), programme_id, "choose_species")
        return Response(species_values(as_shipped(act_of(request), programme, code)))
