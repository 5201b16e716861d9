"""Addresses of this part."""

from django.urls import path

from nailwright.plan.electrofishing import api

urlpatterns = [
    path("surveys/<uuid:survey_id>/settings", api.SurveySettingsView.as_view()),
    path("programmes/<uuid:programme_id>/units", api.UnitsView.as_view()),
]
