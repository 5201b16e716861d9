"""Addresses of this part."""

from django.urls import path

from nailwright.plan.kit import api

urlpatterns = [
    path("surveys/<uuid:survey_id>/kit", api.SurveyKitView.as_view()),
]
