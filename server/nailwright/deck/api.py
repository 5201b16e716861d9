"""The deck over HTTP."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from urllib.parse import urlencode
from uuid import UUID

import orjson
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import status
from rest_framework.renderers import BaseRenderer
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.common.database import one_moment
from nailwright.deck import serializers
from nailwright.deck.calling.corrections import correct_capture
from nailwright.deck.calling.others import name_others, others_of
from nailwright.deck.calling.removal import put_back, take_out
from nailwright.deck.handling.hands import hands_of
from nailwright.deck.handling.inductions import inductions_of
from nailwright.deck.models import Allowance, Capture, Outing, Photo
from nailwright.deck.outing.anglers import anglers_of, card_csv, card_of, card_pdf
from nailwright.deck.outing.crossed import crossed_of, leave_as_it_stands
from nailwright.deck.outing.enough import enough_of
from nailwright.deck.outing.ledger import day_pdf, ledger_of
from nailwright.deck.outing.live import again_after, mark_of
from nailwright.deck.outing.outings import close_outing, go_by_protocol, open_outing, reopen_outing
from nailwright.deck.outing.today import today_of
from nailwright.deck.permits import allowances_of, set_allowance, take_out_allowance
from nailwright.deck.queries import (
    capture_history,
    deck_of,
    fitted_line,
    live_of,
    outings_of,
    photo_shown,
    with_marks,
    with_shown_places,
)
from nailwright.deck.runs.passes import passes_of
from nailwright.deck.runs.tracks import tracks_of
from nailwright.deck.serializers.anglers import AnglerCardQuerySerializer, AnglersSerializer
from nailwright.deck.serializers.crossed import CrossedSerializer, LookedAtSerializer
from nailwright.deck.serializers.enough import EnoughLineSerializer
from nailwright.deck.serializers.inductions import BathAskedSerializer, InductionsSerializer
from nailwright.deck.serializers.instruments import InstrumentsSerializer
from nailwright.deck.serializers.ledger import LedgerSerializer, PaperSizeSerializer
from nailwright.deck.serializers.passes import PassesSerializer
from nailwright.deck.serializers.photos import PhotoQuerySerializer
from nailwright.deck.serializers.tracks import TrackSerializer
from nailwright.gateway.tickets import gateway, make_ticket
from nailwright.programmes.models import Receipt
from nailwright.programmes.people.short_codes import crew_codes
from nailwright.programmes.places import places_of
from nailwright.programmes.policies import may, person_of, programme_for, require
from nailwright.programmes.record.acts import act_of
from nailwright.programmes.record.audit import Act, must_say_why
from nailwright.programmes.record.receiving import once
from nailwright.programmes.serializers import LineSerializer
from nailwright.waters.queries import water_of


class OutingsView(APIView):
    """Outings of a programme, newest first; a post opens one."""

    @extend_schema(operation_id="outings", responses=serializers.OutingSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.OutingSerializer(outings_of(programme), many=True).data)

    @extend_schema(
        operation_id="open_outing",
        request=serializers.OpenOutingSerializer,
        responses={201: serializers.OutingSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "open_outing")
        values = given(serializers.OpenOutingSerializer, request)
        outing = open_outing(
            person_of(request),
            programme,
            outing_id=values["id"],
            water=water_of(programme, values["water"]),
            day=values["date"],
            gear=values["gear"],
            more_gears=values["more_gears"],
            name=values["name"],
            units={"length_unit": values["length_unit"], "mass_unit": values["mass_unit"]},
        )
        return Response(_outing(outing), status.HTTP_201_CREATED)


class TodayView(APIView):
    """The home screen: open outings with targets, and what waits for a person."""

    @extend_schema(operation_id="today", responses=serializers.TodaySerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.TodaySerializer(today_of(programme)).data)


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
        act = act_of(request, f"called as other; {values['name']}"[:200])
        return Response(serializers.NamedSerializer(name_others(act, programme, **values)).data)


class CrossedView(APIView):
    """What two people put right differently; a post says that it was looked at and is right as it stands."""

    @extend_schema(operation_id="crossed", responses=CrossedSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "correct_record")
        return Response(CrossedSerializer(crossed_of(programme), many=True).data)

    @extend_schema(operation_id="look_at_crossed", request=LookedAtSerializer, responses=CrossedSerializer(many=True))
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "correct_record")
        values = given(LookedAtSerializer, request)
        leave_as_it_stands(act_of(request, "two words were compared: it stands"), programme, values["change"])
        return Response(CrossedSerializer(crossed_of(programme), many=True).data)


class AllowancesView(APIView):
    """What permits allow and what is counted against it; a post enters one more."""

    @extend_schema(operation_id="allowances", responses=serializers.AllowanceSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.AllowanceSerializer(allowances_of(programme), many=True).data)

    @extend_schema(
        operation_id="enter_allowance",
        request=serializers.NewAllowanceSerializer,
        responses={201: serializers.AllowanceSerializer(many=True)},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        set_allowance(act_of(request), programme, given(serializers.NewAllowanceSerializer, request))
        return Response(
            serializers.AllowanceSerializer(allowances_of(programme), many=True).data, status.HTTP_201_CREATED
        )


class AllowanceView(APIView):
    @extend_schema(
        operation_id="change_allowance",
        request=serializers.NewAllowanceSerializer,
        responses=serializers.AllowanceSerializer(many=True),
    )
    def post(self, request: Request, allowance_id: UUID) -> Response:
        row = _allowance(request, allowance_id)
        set_allowance(act_of(request), row.programme, given(serializers.NewAllowanceSerializer, request), row)
        return Response(serializers.AllowanceSerializer(allowances_of(row.programme), many=True).data)


class AllowanceDeletedView(APIView):
    """Takes an allowance out, or puts it back."""

    @extend_schema(
        operation_id="take_out_allowance",
        request=serializers.TakenOutSerializer,
        responses=serializers.AllowanceSerializer(many=True),
    )
    def post(self, request: Request, allowance_id: UUID) -> Response:
        row = _allowance(request, allowance_id)
        take_out_allowance(act_of(request), row, given(serializers.TakenOutSerializer, request)["deleted"])
        return Response(serializers.AllowanceSerializer(allowances_of(row.programme), many=True).data)


def _allowance(request: Request, key: UUID) -> Allowance:
    row = get_object_or_404(Allowance.objects.select_related("programme"), pk=key)
    require(person_of(request), row.programme, "plan")
    return row


class OutingStateView(APIView):
    """Closing an outing, and opening it again."""

    @extend_schema(
        operation_id="set_outing_state",
        request=serializers.OutingStateSerializer,
        responses=serializers.OutingSerializer,
    )
    def post(self, request: Request, outing_id: UUID) -> Response:
        outing = get_object_or_404(Outing.objects.select_related("programme"), pk=outing_id)
        values = given(serializers.OutingStateSerializer, request)
        act = Act(values["id"], person_of(request), timezone.now(), values["reason"])
        if values["state"] == Outing.State.CLOSED:
            return Response(_outing(close_outing(act, outing, values["name"].strip(), values["note"].strip())))
        return Response(_outing(reopen_outing(act, outing)))


class OutingProtocolView(APIView):
    """An open outing goes by the protocol that holds now."""

    @extend_schema(operation_id="go_by_protocol", request=None, responses=serializers.OutingSerializer)
    def post(self, request: Request, outing_id: UUID) -> Response:
        outing = get_object_or_404(Outing.objects.select_related("programme"), pk=outing_id)
        return Response(_outing(go_by_protocol(act_of(request, "the protocol was changed"), outing)))


class _Json(BaseRenderer):
    """JSON of plain values, many of them: several times faster than the standard encoder (bin/bench)."""

    media_type, format, charset = "application/json", "json", None

    def render(self, data: Any, accepted_media_type: Any = None, renderer_context: Any = None) -> bytes:
        return orjson.dumps(data, default=str)


class DeckView(APIView):
    """Everything the Deck needs to work an outing with no signal."""

    renderer_classes = [_Json]

    @extend_schema(operation_id="deck", responses=serializers.DeckSerializer)
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing = get_object_or_404(Outing.objects.select_related("programme", "water"), pk=outing_id)
        require(person_of(request), outing.programme, "read")
        person = person_of(request)
        crew = crew_codes(outing.programme) if may(person, outing.programme, "work_deck") else []
        # fish come aboard while it is read: a scan without its fish, a fish without its run would be none of the outing
        with one_moment():
            deck = with_shown_places(deck_of(outing), places_of(person, outing.programme))
            told = {**deck, "crew": crew}
            return Response(serializers.DeckSerializer(told).data)


class DeckLiveView(APIView):
    """What others did to an outing since a tablet last read it; nothing of it where the mark still stands."""

    renderer_classes = [_Json]

    @extend_schema(
        operation_id="deck_live",
        parameters=[OpenApiParameter("mark", description="Of the answer before")],
        responses=serializers.DeckLiveSerializer,
    )
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing = get_object_or_404(Outing.objects.select_related("programme", "water", "protocol"), pk=outing_id)
        person = person_of(request)
        require(person, outing.programme, "read")
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


class PhotoView(APIView):
    """A photo as JPEG; ``small`` for lists. Of a fish whose places are hidden from whoever asks there is none."""

    @extend_schema(
        operation_id="photo",
        parameters=[PhotoQuerySerializer],
        responses={(200, "image/jpeg"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, photo_id: UUID) -> HttpResponse:
        photo = get_object_or_404(
            Photo.present.select_related("outing__programme", "capture__run", "file"), pk=photo_id
        )
        person, programme = person_of(request), photo.outing.programme
        require(person, programme, "read")
        if not photo_shown(photo, places_of(person, programme)):
            raise Http404
        asked = PhotoQuerySerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        picture = photo.file.small if asked.validated_data["small"] else photo.file.jpeg
        response = HttpResponse(bytes(picture), content_type="image/jpeg")
        response["Cache-Control"] = "private, max-age=31536000, immutable"  # a photo never changes under its key
        return response


class InductionsView(APIView):
    """How long fish took to lose balance in earlier baths of an agent, and what that suggests for the next one."""

    @extend_schema(operation_id="inductions", parameters=[BathAskedSerializer], responses=InductionsSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        asked = BathAskedSerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        return Response(InductionsSerializer(inductions_of(programme, **asked.validated_data)).data)


class PassesView(APIView):
    """Passes at each site of an outing so far: what they say, whether another is worth it, and the last visit there."""

    @extend_schema(operation_id="passes", responses=PassesSerializer(many=True))
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing = _outing_for(request, outing_id)
        places = places_of(person_of(request), outing.programme)
        return Response(PassesSerializer(passes_of(outing, places), many=True).data)


class EnoughView(APIView):
    """The precision reached so far, against what the plan wanted."""

    @extend_schema(operation_id="enough_so_far", responses=EnoughLineSerializer(many=True))
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing = _outing_for(request, outing_id)
        hidden = places_of(person_of(request), outing.programme).hidden
        return Response(EnoughLineSerializer(enough_of(outing, hidden), many=True).data)


class LedgerView(APIView):
    """What came aboard and how it left, with what the deaths say; and what is not complete yet."""

    @extend_schema(operation_id="ledger", responses=LedgerSerializer)
    def get(self, request: Request, outing_id: UUID) -> Response:
        return Response(LedgerSerializer(ledger_of(_outing_for(request, outing_id))).data)


class DayView(APIView):
    """The day in plain words, as PDF."""

    heavy = True

    @extend_schema(
        operation_id="day_pdf",
        parameters=[PaperSizeSerializer],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, outing_id: UUID) -> HttpResponse:
        outing = _outing_for(request, outing_id)
        asked = PaperSizeSerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        page = day_pdf(
            outing,
            asked.validated_data["paper"],
            timezone.now().date(),
            places_of(person_of(request), outing.programme),
        )
        response = HttpResponse(page, content_type="application/pdf")
        response["Content-Disposition"] = 'attachment; filename="day.pdf"'
        return response


class TracksView(APIView):
    """Where each run of an outing went. Nobody is told who may not see places of all species: a run's line is where fish were."""

    @extend_schema(operation_id="tracks", responses=TrackSerializer(many=True))
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing = _outing_for(request, outing_id)
        shown = [] if places_of(person_of(request), outing.programme).hidden else tracks_of(outing)
        return Response(TrackSerializer(shown, many=True).data)


class InstrumentsView(APIView):
    """Where the Deck hears the instruments; empty where no gateway is set up. The tickets are good for a day, or until the sign-in ends."""

    @extend_schema(operation_id="instruments", responses=InstrumentsSerializer)
    def get(self, request: Request, outing_id: UUID) -> Response:
        outing = get_object_or_404(Outing.objects.select_related("programme"), pk=outing_id)
        require(person_of(request), outing.programme, "work_deck")
        where = gateway()
        query = (
            urlencode({"ticket": make_ticket(person_of(request), request.session.session_key)}) if where.address else ""
        )
        told = {
            "stream": f"{where.address}/stream?{query}" if where.address else "",
            "play": f"{where.address}/play?{query}" if where.address and where.plays else "",
        }
        return Response(InstrumentsSerializer(told).data)


class AnglersView(APIView):
    """Who fished by rod on an outing."""

    @extend_schema(operation_id="anglers", responses=AnglersSerializer)
    def get(self, request: Request, outing_id: UUID) -> Response:
        return Response(AnglersSerializer({"names": anglers_of(_outing_for(request, outing_id))}).data)


class AnglerCardView(APIView):
    """One angler's day: PDF, or CSV with a line for each fish."""

    heavy = True

    @extend_schema(
        operation_id="angler_card",
        parameters=[AnglerCardQuerySerializer],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY, (200, "text/csv"): OpenApiTypes.STR},
    )
    def get(self, request: Request, outing_id: UUID) -> HttpResponse:
        outing = _outing_for(request, outing_id)
        asked = AnglerCardQuerySerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        values = asked.validated_data
        card = card_of(outing, values["angler"], places_of(person_of(request), outing.programme))
        if values["form"] == "csv":
            response = HttpResponse(card_csv(card), content_type="text/csv; charset=utf-8")
        else:
            page = card_pdf(card, values["paper"], timezone.now().date())
            response = HttpResponse(page, content_type="application/pdf")
        response["Content-Disposition"] = f'attachment; filename="angler.{values["form"]}"'
        return response


def _outing_for(request: Request, outing_id: UUID) -> Outing:
    outing = get_object_or_404(Outing.objects.select_related("programme", "water", "protocol"), pk=outing_id)
    require(person_of(request), outing.programme, "read")
    return outing


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
        act = Act(row.pop("id"), person_of(request), timezone.now(), row.pop("reason"))
        _desk(act, capture, "desk.correct", row, lambda: correct_capture(act, capture.programme, capture.pk, row, True))
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
        act = Act(row.pop("id"), person_of(request), timezone.now(), row.pop("reason"))
        if bool(capture.deleted_at) != row["deleted"]:
            _desk(act, capture, "desk.mark", row, lambda: self._mark(act, capture, row))
        return Response(told)

    def _mark(self, act: Act, capture: Capture, row: dict[str, Any]) -> None:
        if row["deleted"]:
            take_out(act, capture.programme, capture.pk, row, True)
        else:
            put_back(act, capture.programme, capture.pk, True)


class CaptureHistoryView(APIView):
    @extend_schema(operation_id="capture_history", responses=serializers.ChangeSerializer(many=True))
    def get(self, request: Request, capture_id: UUID) -> Response:
        capture = get_object_or_404(Capture.objects.select_related("programme"), pk=capture_id)
        require(person_of(request), capture.programme, "read")
        return Response(serializers.ChangeSerializer(capture_history(capture.programme, capture.pk), many=True).data)


def _outing(outing: Outing) -> dict[str, Any]:
    return serializers.OutingSerializer(outings_of(outing.programme).get(pk=outing.pk)).data


def _capture(capture_id: UUID) -> Capture:
    return get_object_or_404(Capture.objects.select_related("programme"), pk=capture_id)


def _desk(act: Act, capture: Capture, kind: str, row: dict[str, Any], do: Callable[[], Any]) -> None:
    """A change from the desk, also after the outing is closed: who may, why, and never twice."""
    require(act.person, capture.programme, "correct_record")
    must_say_why(act, "digits swapped on the sheet")
    once(act, capture.programme, kind, row, do)
