"""Addresses of findings."""

from django.urls import path

from nailwright.findings import api

urlpatterns = [
    *(
        path(f"programmes/<uuid:programme_id>/findings/{kind}", view.as_view())
        for kind, view in api.FINDING_VIEWS.items()
    ),
    path("series/<uuid:series_id>/overlay", api.SeriesOverlayView.as_view()),
    path("programmes/<uuid:programme_id>/saved-findings", api.SavedFindingsView.as_view()),
    path("programmes/<uuid:programme_id>/selections", api.SelectionsView.as_view()),
    path("programmes/<uuid:programme_id>/selections/<slug:key>", api.SelectionView.as_view()),
    path("programmes/<uuid:programme_id>/selection-options", api.SelectionOptionsView.as_view()),
]
