"""Kits of volunteers, and their cards."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.common.pictures import picture_response
from nailwright.deck.serializers.photos import PhotoQuerySerializer
from nailwright.programmes.models import Membership
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.returns.models import CardPhoto
from nailwright.returns.volunteers import serializers
from nailwright.returns.volunteers.kits import kit_of, kits_in, summary_of
from nailwright.returns.volunteers.letters import ask_for_missing, card_letter


def _member(request: Request, key: UUID) -> Membership:
    """The membership of a kit: one's own, or anybody's for those who read reports.

    Raises:
        Http404: there is none for this person. Refused: ``role_may_not``.
    """
    found = get_object_or_404(Membership.present.select_related("person", "programme"), pk=key)
    person = person_of(request)
    if found.person_id != person.pk:
        require(person, found.programme, "read_returns")
    return found


class KitView(APIView):
    @extend_schema(operation_id="kit", responses=serializers.TaggingKitSerializer)
    def get(self, request: Request, kit_id: UUID) -> Response:
        return Response(serializers.TaggingKitSerializer(kit_of(_member(request, kit_id))).data)


class KitSummaryView(APIView):
    """What became of a volunteer's fish, and how they measure."""

    @extend_schema(operation_id="kit_summary", responses=serializers.KitSummarySerializer)
    def get(self, request: Request, kit_id: UUID) -> Response:
        return Response(serializers.KitSummarySerializer(summary_of(_member(request, kit_id))).data)


class CardLetterView(APIView):
    """The letter that asks a volunteer for what their cards do not say; a post sends it, or notes that it was handed over otherwise."""

    @extend_schema(operation_id="card_letter", responses=serializers.CardLetterSerializer)
    def get(self, request: Request, kit_id: UUID) -> Response:
        member = _member(request, kit_id)
        require(person_of(request), member.programme, "read_returns")
        return Response(serializers.CardLetterSerializer(card_letter(member, _link(request))).data)

    @extend_schema(
        operation_id="send_card_letter",
        request=serializers.SendCardLetterSerializer,
        responses=serializers.CardLetterSerializer,
    )
    def post(self, request: Request, kit_id: UUID) -> Response:
        by_mail = given(serializers.SendCardLetterSerializer, request)["by_mail"]
        letter = ask_for_missing(person_of(request), _member(request, kit_id), _link(request), by_mail)
        return Response(serializers.CardLetterSerializer(letter).data)


class CardPhotoView(APIView):
    """A photo of a card as JPEG, for its tagger and for those who read reports; ``small`` for lists."""

    @extend_schema(
        operation_id="card_photo",
        parameters=[PhotoQuerySerializer],
        responses={(200, "image/jpeg"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, card_photo_id: UUID) -> HttpResponse:
        photo = get_object_or_404(CardPhoto.present.select_related("card__programme"), pk=card_photo_id)
        person = person_of(request)
        if photo.card.tagger_id == person.pk:
            require(person, photo.card.programme, "read")
        else:
            require(person, photo.card.programme, "read_returns")
        asked = PhotoQuerySerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        return picture_response(photo.small if asked.validated_data["small"] else photo.jpeg)


def _link(request: Request) -> str:
    return request.build_absolute_uri("/kit")


class KitsView(APIView):
    """Everybody with tags or cards, and what waits."""

    @extend_schema(operation_id="kits", responses=serializers.ListedKitSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read_returns")
        return Response(serializers.ListedKitSerializer(kits_in(programme), many=True).data)
