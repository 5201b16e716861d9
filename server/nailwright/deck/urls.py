"""Addresses of the deck."""

from django.urls import path

from nailwright.deck.calling.api import CaptureDeletedView, CaptureHistoryView, CaptureView, OthersView, OwnLineView
from nailwright.deck.handling.api import InductionsView
from nailwright.deck.media.api import PhotoView
from nailwright.deck.outing.api import (
    CrossedView,
    InstrumentsView,
    OutingProtocolView,
    OutingStateView,
    OutingsView,
    TodayView,
)
from nailwright.deck.outing.documents_api import DeckLiveView, DeckView
from nailwright.deck.outing.papers_api import AnglerCardView, AnglersView, DayView, EnoughView, LedgerView
from nailwright.deck.runs.api import PassesView, TracksView
from nailwright.deck.tagging.api import HandOutView

urlpatterns = [
    path("programmes/<uuid:programme_id>/today", TodayView.as_view()),
    path("programmes/<uuid:programme_id>/outings", OutingsView.as_view()),
    path("programmes/<uuid:programme_id>/species/<slug:code>/own-line", OwnLineView.as_view()),
    path("programmes/<uuid:programme_id>/crossed", CrossedView.as_view()),
    path("programmes/<uuid:programme_id>/others", OthersView.as_view()),
    path("programmes/<uuid:programme_id>/tags/hand-out", HandOutView.as_view()),
    path("programmes/<uuid:programme_id>/inductions", InductionsView.as_view()),
    path("photos/<uuid:photo_id>.jpg", PhotoView.as_view()),
    path("outings/<uuid:outing_id>/passes", PassesView.as_view()),
    path("outings/<uuid:outing_id>/enough", EnoughView.as_view()),
    path("outings/<uuid:outing_id>/ledger", LedgerView.as_view()),
    path("outings/<uuid:outing_id>/day.pdf", DayView.as_view()),
    path("outings/<uuid:outing_id>/tracks", TracksView.as_view()),
    path("outings/<uuid:outing_id>/instruments", InstrumentsView.as_view()),
    path("outings/<uuid:outing_id>/anglers", AnglersView.as_view()),
    path("outings/<uuid:outing_id>/angler-card", AnglerCardView.as_view()),
    path("outings/<uuid:outing_id>/state", OutingStateView.as_view()),
    path("outings/<uuid:outing_id>/protocol", OutingProtocolView.as_view()),
    path("outings/<uuid:outing_id>/deck", DeckView.as_view()),
    path("outings/<uuid:outing_id>/live", DeckLiveView.as_view()),
    path("captures/<uuid:capture_id>", CaptureView.as_view()),
    path("captures/<uuid:capture_id>/deleted", CaptureDeletedView.as_view()),
    path("captures/<uuid:capture_id>/history", CaptureHistoryView.as_view()),
]
