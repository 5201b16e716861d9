"""Marked fish, and the stock of tags, over HTTP."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.common.sources import open_table
from nailwright.common.uploads import uploaded
from nailwright.programmes.places import places_of
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.programmes.record.acts import act_of
from nailwright.programmes.record.audit import Act
from nailwright.tags import serializers
from nailwright.tags.balance import handings_out
from nailwright.tags.inventory import batches_of, tags_found, told_batch
from nailwright.tags.models import Fish, TagBatch, TagKind
from nailwright.tags.moves import moves_of
from nailwright.tags.number_columns import number_columns
from nailwright.tags.one_fish import merge_fish, split_fish, take_back
from nailwright.tags.queries import story_of
from nailwright.tags.stock import Taken, add_numbers, describe_batch, enter_batch, move_tags, try_numbers
from nailwright.tags.transmitters import activate_tags, transmitters_of


class FishView(APIView):
    """A fish's story: every encounter, and growth and distance between them."""

    @extend_schema(operation_id="fish_story", responses=serializers.FishStorySerializer)
    def get(self, request: Request, fish_id: UUID) -> Response:
        fish = _fish(request, fish_id, "read")
        if fish.merged_into_id:
            fish = _fish(request, fish.merged_into_id, "read")
        return _story(request, fish)


def _fish(request: Request, key: UUID, permission: str) -> Fish:
    fish = get_object_or_404(Fish.objects.select_related("programme"), pk=key)
    require(person_of(request), fish.programme, permission)
    return fish


def _story(request: Request, fish: Fish) -> Response:
    places = places_of(person_of(request), fish.programme)
    return Response(serializers.FishStorySerializer(story_of(fish, places)).data)


class MergeFishView(APIView):
    """Another fish was found to be this one."""

    @extend_schema(
        operation_id="merge_fish", request=serializers.MergeFishSerializer, responses=serializers.FishStorySerializer
    )
    def post(self, request: Request, fish_id: UUID) -> Response:
        fish, asked = _fish(request, fish_id, "correct_record"), given(serializers.MergeFishSerializer, request)
        other = get_object_or_404(Fish, pk=asked["other"], programme=fish.programme)
        merge_fish(act_of(request, asked["reason"]), fish, other)
        return _story(request, fish)


class SplitFishView(APIView):
    """Some meetings were of another fish; the answer is that one's story."""

    @extend_schema(
        operation_id="split_fish", request=serializers.SplitFishSerializer, responses=serializers.FishStorySerializer
    )
    def post(self, request: Request, fish_id: UUID) -> Response:
        fish, asked = _fish(request, fish_id, "correct_record"), given(serializers.SplitFishSerializer, request)
        return _story(request, split_fish(act_of(request, asked["reason"]), fish, asked["meetings"]))


class TakeBackFishView(APIView):
    """A merging or a splitting was none; the answer is the story of the fish that it was merged with or split from."""

    @extend_schema(
        operation_id="take_back_fish",
        request=serializers.TakeBackFishSerializer,
        responses=serializers.FishStorySerializer,
    )
    def post(self, request: Request, fish_id: UUID) -> Response:
        fish, asked = _fish(request, fish_id, "correct_record"), given(serializers.TakeBackFishSerializer, request)
        return _story(request, take_back(act_of(request, asked["reason"]), fish))


def _taken(taken: Taken) -> dict[str, Any]:
    return {
        "new": len(taken.new),
        "first": taken.new[0] if taken.new else "",
        "last": taken.new[-1] if taken.new else "",
        "known": len(taken.known),
        "elsewhere": len(taken.elsewhere),
        "twice": taken.twice,
        "unread": [{"text": text, "why": why} for text, why in taken.unread[:20]],
        "unread_n": len(taken.unread),
    }


class BatchesView(APIView):
    @extend_schema(operation_id="tag_batches", responses=serializers.BatchSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "keep_tags")
        return Response(serializers.BatchSerializer(batches_of(programme), many=True).data)

    @extend_schema(
        operation_id="enter_tag_batch",
        request=serializers.EnterBatchSerializer,
        responses={201: serializers.EnteredBatchSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "keep_tags")
        values = given(serializers.EnterBatchSerializer, request)
        act = Act(values.pop("id"), person_of(request), timezone.now())
        batch, taken = enter_batch(act, programme, values, values.pop("numbers"))
        told = {"batch": told_batch(batch), "taken": _taken(taken)}
        return Response(serializers.EnteredBatchSerializer(told).data, status.HTTP_201_CREATED)


class TryNumbersView(APIView):
    """What would become of numbers in a new batch: nothing is kept."""

    @extend_schema(
        operation_id="try_tag_numbers", request=serializers.TryNumbersSerializer, responses=serializers.TakenSerializer
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "keep_tags")
        asked = given(serializers.TryNumbersSerializer, request)
        return Response(
            serializers.TakenSerializer(_taken(try_numbers(programme, asked["kind"], asked["numbers"]))).data
        )


class NumbersFileView(APIView):
    """The columns of a file (CSV or XLSX) that hold numbers of a kind, the fullest first: nothing is kept."""

    parser_classes = [MultiPartParser]

    @extend_schema(
        operation_id="tag_numbers_of_file",
        request={
            "multipart/form-data": {
                "type": "object",
                "properties": {
                    "file": {"type": "string", "format": "binary"},
                    "kind": {"type": "string", "enum": TagKind.values},
                },
            }
        },
        responses=serializers.NumbersColumnSerializer(many=True),
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme_for(person_of(request), programme_id, "keep_tags")
        table = open_table(uploaded(request).read())
        columns = number_columns(table, given(serializers.OfKindSerializer, request)["kind"])
        return Response(serializers.NumbersColumnSerializer(columns, many=True).data)


def _batch(request: Request, key: UUID) -> TagBatch:
    batch = get_object_or_404(TagBatch.objects.select_related("programme"), pk=key)
    require(person_of(request), batch.programme, "keep_tags")
    return batch


class BatchView(APIView):
    @extend_schema(
        operation_id="describe_tag_batch", request=serializers.NewBatchSerializer, responses=serializers.BatchSerializer
    )
    def post(self, request: Request, batch_id: UUID) -> Response:
        told = given(serializers.NewBatchSerializer, request)
        # what somebody left out stays as it is
        values = {name: value for name, value in told.items() if name in request.data}
        batch = describe_batch(act_of(request), _batch(request, batch_id), values)
        return Response(serializers.BatchSerializer(told_batch(batch)).data)


class BatchNumbersView(APIView):
    @extend_schema(
        operation_id="add_tag_numbers",
        request=serializers.NumbersSerializer,
        responses=serializers.EnteredBatchSerializer,
    )
    def post(self, request: Request, batch_id: UUID) -> Response:
        batch, asked = _batch(request, batch_id), given(serializers.NumbersSerializer, request)
        taken = add_numbers(act_of(request), batch, asked["numbers"], asked["only_try"])
        return Response(serializers.EnteredBatchSerializer({"batch": told_batch(batch), "taken": _taken(taken)}).data)


class TagsView(APIView):
    """Tags by their number, whole or part, a page at a time."""

    @extend_schema(
        operation_id="tags_found",
        parameters=[serializers.TagsQuerySerializer],
        responses=serializers.FoundTagSerializer(many=True),
    )
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        asked = serializers.TagsQuerySerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        found = tags_found(programme, **asked.validated_data)
        return Response(serializers.FoundTagSerializer(found, many=True).data)


class HandingsOutView(APIView):
    """What was handed out, and whether it balances."""

    @extend_schema(operation_id="tag_handings_out", responses=serializers.HandingOutSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "keep_tags")
        return Response(serializers.HandingOutSerializer(handings_out(programme), many=True).data)


class TagMovesView(APIView):
    """The ledger of one tag."""

    @extend_schema(operation_id="tag_moves", responses=serializers.TagMoveSerializer(many=True))
    def get(self, request: Request, programme_id: UUID, kind: str, number: str) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.TagMoveSerializer(moves_of(programme, kind, number), many=True).data)


class MoveTagsView(APIView):
    """Tags are lost, damaged, done away with, or in stock again."""

    @extend_schema(
        operation_id="move_tags", request=serializers.MoveTagsSerializer, responses=serializers.MovedSerializer
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "keep_tags")
        asked = given(serializers.MoveTagsSerializer, request)
        act = act_of(request, asked["reason"])
        moved, refused = move_tags(act, programme, asked["kind"], asked["numbers"], asked["state"])
        told = {"moved": moved, "refused": [{"text": number, "why": why} for number, why in refused[:20]]}
        return Response(serializers.MovedSerializer(told).data)


class TransmittersView(APIView):
    """Tags with a battery, and until when each is expected to be heard; a post notes when some were activated."""

    @extend_schema(operation_id="transmitters", responses=serializers.TransmitterSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "keep_tags")
        return Response(serializers.TransmitterSerializer(transmitters_of(programme), many=True).data)

    @extend_schema(
        operation_id="activate_tags", request=serializers.ActivateTagsSerializer, responses=serializers.MovedSerializer
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "keep_tags")
        asked = given(serializers.ActivateTagsSerializer, request)
        n, refused = activate_tags(act_of(request), programme, asked["kind"], asked["numbers"], asked["day"])
        told = {"moved": n, "refused": [{"text": number, "why": why} for number, why in refused[:20]]}
        return Response(serializers.MovedSerializer(told).data)
