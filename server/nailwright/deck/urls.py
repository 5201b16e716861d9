"""Addresses of the deck."""

from django.urls import path

from nailwright.deck import api
from nailwright.deck.tagging.api import HandOutView

urlpatterns = [
    path("programmes/<uuid:programme_id>/today", api.TodayView.as_view()),
    path("programmes/<uuid:programme_id>/outings", api.OutingsView.as_view()),
    path("programmes/<uuid:programme_id>/species/<slug:code>/own-line", api.OwnLineView.as_view()),
    path("programmes/<uuid:programme_id>/crossed", api.CrossedView.as_view()),
    path("programmes/<uuid:programme_id>/others", api.OthersView.as_view()),
    path("programmes/<uuid:programme_id>/allowances", api.AllowancesView.as_view()),
    path("programmes/<uuid:programme_id>/tags/hand-out", HandOutView.as_view()),
    path("allowances/<uuid:allowance_id>", api.AllowanceView.as_view()),
    path("allowances/<uuid:allowance_id>/deleted", api.AllowanceDeletedView.as_view()),
    path("programmes/<uuid:programme_id>/inductions", api.InductionsView.as_view()),
    path("photos/<uuid:photo_id>.jpg", api.PhotoView.as_view()),
    path("outings/<uuid:outing_id>/passes", api.PassesView.as_view()),
    path("outings/<uuid:outing_id>/enough", api.EnoughView.as_view()),
    path("outings/<uuid:outing_id>/ledger", api.LedgerView.as_view()),
    path("outings/<uuid:outing_id>/day.pdf", api.DayView.as_view()),
    path("outings/<uuid:outing_id>/tracks", api.TracksView.as_view()),
    path("outings/<uuid:outing_id>/instruments", api.InstrumentsView.as_view()),
    path("outings/<uuid:outing_id>/anglers", api.AnglersView.as_view()),
    path("outings/<uuid:outing_id>/angler-card", api.AnglerCardView.as_view()),
    path("outings/<uuid:outing_id>/state", api.OutingStateView.as_view()),
    path("outings/<uuid:outing_id>/protocol", api.OutingProtocolView.as_view()),
    path("outings/<uuid:outing_id>/deck", api.DeckView.as_view()),
    path("outings/<uuid:outing_id>/live", api.DeckLiveView.as_view()),
    path("captures/<uuid:capture_id>", api.CaptureView.as_view()),
    path("captures/<uuid:capture_id>/deleted", api.CaptureDeletedView.as_view()),
    path("captures/<uuid:capture_id>/history", api.CaptureHistoryView.as_view()),
]
