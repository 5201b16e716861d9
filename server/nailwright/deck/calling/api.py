"""Fish of the record, put right at the desk, over HTTP."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.deck import serializers
from nailwright.deck.calling.corrections import correct_capture
from nailwright.deck.calling.others import name_others, others_of
from nailwright.deck.calling.removal import put_back, take_out
from nailwright.deck.handling.events import event_kinds, events_of_fish
from nailwright.deck.handling.hands import hands_of
from nailwright.deck.handling.releases import set_release
from nailwright.deck.models import Capture, Photo
from nailwright.deck.own_lines import fitted_line
from nailwright.deck.queries import capture_history, photo_shown, with_marks
from nailwright.programmes.models import Receipt
from nailwright.programmes.places import places_of
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.programmes.record.acts import act_of
from nailwright.programmes.record.audit import Act, must_say_why
from nailwright.programmes.record.receiving import once
from nailwright.programmes.serializers import LineSerializer


class OwnLineView(APIView):
    """The length-mass line through the programme's own fish of a species."""

    @extend_schema(operation_id="own_line", responses=LineSerializer)
    def get(self, request: Request, programme_id: UUID, code: str) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(LineSerializer(fitted_line(programme, code)).data)


class OthersView(APIView):
    """Fish that were called as ``other``, by their names; a post says which species those of a name are."""

    @extend_schema(operation_id="others", responses=serializers.OtherSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.OtherSerializer(others_of(programme), many=True).data)

    @extend_schema(
        operation_id="name_others", request=serializers.NameOthersSerializer, responses=serializers.NamedSerializer
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "correct_record")
        values = given(serializers.NameOthersSerializer, request)
        act = act_of(request, f"called as other; {values['name']}"[:200], desk=True)
        return Response(serializers.NamedSerializer(name_others(act, programme, **values)).data)


class CaptureView(APIView):
    """One fish; a post corrects it."""

    @extend_schema(operation_id="capture", responses=serializers.CaptureInPlaceSerializer)
    def get(self, request: Request, capture_id: UUID) -> Response:
        return Response(self._in_place(request, capture_id))

    @extend_schema(
        operation_id="correct_capture",
        request=serializers.CorrectionSerializer,
        responses=serializers.CaptureInPlaceSerializer,
    )
    def post(self, request: Request, capture_id: UUID) -> Response:
        capture = _capture(capture_id)
        row = given(serializers.CorrectionSerializer, request)
        act = Act(row.pop("id"), person_of(request), timezone.now(), row.pop("reason"), desk=True)
        if "caught_at" in row:
            row["caught_at"] = row["caught_at"].isoformat()  # as an entry has it
        left: dict[str, Any] = {name: row[name] for name in ("fate", "strength") if name in row}

        def correct() -> None:
            correct_capture(act, capture.programme, capture.pk, row)
            if left:
                set_release(act.part("left"), capture.programme, {"captures": [str(capture.pk)], **left})

        _desk(act, capture, "desk.correct", row, correct)
        return Response(self._in_place(request, capture_id))

    def _in_place(self, request: Request, capture_id: UUID) -> dict[str, Any]:
        capture = get_object_or_404(
            Capture.objects.select_related("programme", "run__outing__water", "run__site", "recorder", "release"),
            pk=capture_id,
        )
        require(person_of(request), capture.programme, "read")
        run, outing = capture.run, capture.run.outing
        with_marks([capture])
        hands = hands_of(capture)
        claimed = Receipt.objects.filter(pk=capture.pk).select_related("in_name_of")
        site = run.site
        places = places_of(person_of(request), capture.programme)
        shown = places.show(site.pk, capture.species)
        if not shown:
            capture.run = None  # type: ignore[assignment] # only as it is told here
        events = events_of_fish(capture) if shown else []
        kinds = {each["kind"] for each in events}
        photos = Photo.present.filter(capture=capture).select_related("capture__run").order_by("device_time", "id")
        return serializers.CaptureInPlaceSerializer(
            {
                "capture": capture,
                "deleted": capture.deleted_at is not None,
                "outing": outing.pk,
                "outing_name": outing.name,
                "date": outing.date,
                "time_zone": outing.water.time_zone,
                "site": places.name(site.pk, site.name, capture.species),
                "run": run.number if shown else None,
                "recorder": capture.recorder.name,
                "in_name_of": next((each.in_name_of.name for each in claimed if each.in_name_of), ""),
                "measured_by": hands.measured,
                "tagged_by": hands.tagged,
                "events": events,
                "event_kinds": [each for each in event_kinds(outing) if each["code"] in kinds],
                "photos": [each for each in photos if photo_shown(each, places)],
            }
        ).data


class CaptureDeletedView(APIView):
    """Taking a fish out of the record, and restoring it."""

    @extend_schema(
        operation_id="mark_capture", request=serializers.DeletedSerializer, responses=serializers.DeletedSerializer
    )
    def post(self, request: Request, capture_id: UUID) -> Response:
        capture = _capture(capture_id)
        row = given(serializers.DeletedSerializer, request)
        told = serializers.DeletedSerializer(row).data
        act = Act(row.pop("id"), person_of(request), timezone.now(), row.pop("reason"), desk=True)
        if bool(capture.deleted_at) != row["deleted"]:
            _desk(act, capture, "desk.mark", row, lambda: self._mark(act, capture, row))
        return Response(told)

    def _mark(self, act: Act, capture: Capture, row: dict[str, Any]) -> None:
        if row["deleted"]:
            take_out(act, capture.programme, capture.pk, row)
        else:
            put_back(act, capture.programme, capture.pk)


class CaptureHistoryView(APIView):
    @extend_schema(operation_id="capture_history", responses=serializers.ChangeSerializer(many=True))
    def get(self, request: Request, capture_id: UUID) -> Response:
        capture = get_object_or_404(Capture.objects.select_related("programme"), pk=capture_id)
        require(person_of(request), capture.programme, "read")
        return Response(serializers.ChangeSerializer(capture_history(capture.programme, capture.pk), many=True).data)


def _capture(capture_id: UUID) -> Capture:
    return get_object_or_404(Capture.objects.select_related("programme"), pk=capture_id)


def _desk(act: Act, capture: Capture, kind: str, row: dict[str, Any], do: Callable[[], Any]) -> None:
    """A change from the desk, also after the outing is closed: who may, why, and never twice."""
    require(act.person, capture.programme, "correct_record")
    must_say_why(act, "digits swapped on the sheet")
    once(act, capture.programme, kind, row, do)
