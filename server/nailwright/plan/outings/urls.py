"""Addresses of this part."""

from django.urls import path

from nailwright.plan.outings import api

urlpatterns = [
    path("surveys/<uuid:survey_id>/outing", api.SurveyOutingView.as_view()),
    path("surveys/<uuid:survey_id>/sheet.pdf", api.SurveySheetView.as_view()),
]
