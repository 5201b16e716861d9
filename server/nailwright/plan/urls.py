"""Addresses of plans."""

from django.urls import path

from nailwright.plan import api

urlpatterns = [
    path("programmes/<uuid:programme_id>/plan", api.PlanView.as_view()),
    path("programmes/<uuid:programme_id>/units", api.UnitsView.as_view()),
    path("programmes/<uuid:programme_id>/papers", api.PapersView.as_view()),
    path("programmes/<uuid:programme_id>/seasons", api.SeasonsView.as_view()),
    path("programmes/<uuid:programme_id>/enough", api.EnoughView.as_view()),
    path("papers/<uuid:paper_id>", api.PaperView.as_view()),
    path("surveys/<uuid:survey_id>", api.SurveyView.as_view()),
    path("surveys/<uuid:survey_id>/again", api.SurveyAgainView.as_view()),
    path("surveys/<uuid:survey_id>/deleted", api.SurveyDeletedView.as_view()),
    path("surveys/<uuid:survey_id>/sites", api.SurveySitesView.as_view()),
    path("surveys/<uuid:survey_id>/sites/move", api.MoveSiteView.as_view()),
    path("surveys/<uuid:survey_id>/settings", api.SurveySettingsView.as_view()),
    path("surveys/<uuid:survey_id>/kit", api.SurveyKitView.as_view()),
    path("surveys/<uuid:survey_id>/rehearsals", api.RehearsalsView.as_view()),
    path("surveys/<uuid:survey_id>/outing", api.SurveyOutingView.as_view()),
    path("surveys/<uuid:survey_id>/sites.gpx", api.SurveyGpxView.as_view()),
    path("surveys/<uuid:survey_id>/survey.ics", api.SurveyCalendarView.as_view()),
    path("surveys/<uuid:survey_id>/sheet.pdf", api.SurveySheetView.as_view()),
    path("waters/<uuid:water_id>/reach", api.ReachView.as_view()),
    path("waters/<uuid:water_id>/line", api.ReachLineView.as_view()),
    path("waters/<uuid:water_id>/zones", api.ZonesView.as_view()),
]
