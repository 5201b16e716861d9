"""Addresses of this part."""

from django.urls import path

from nailwright.plan.surveys import api

urlpatterns = [
    path("programmes/<uuid:programme_id>/plan", api.PlanView.as_view()),
    path("surveys/<uuid:survey_id>", api.SurveyView.as_view()),
    path("surveys/<uuid:survey_id>/again", api.SurveyAgainView.as_view()),
    path("surveys/<uuid:survey_id>/deleted", api.SurveyDeletedView.as_view()),
    path("surveys/<uuid:survey_id>/survey.ics", api.SurveyCalendarView.as_view()),
]
