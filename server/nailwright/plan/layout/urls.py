"""Addresses of this part."""

from django.urls import path

from nailwright.plan.layout import api

urlpatterns = [
    path("surveys/<uuid:survey_id>/sites", api.SurveySitesView.as_view()),
    path("surveys/<uuid:survey_id>/sites/move", api.MoveSiteView.as_view()),
    path("surveys/<uuid:survey_id>/sites.gpx", api.SurveyGpxView.as_view()),
]
