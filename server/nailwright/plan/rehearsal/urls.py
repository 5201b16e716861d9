"""Addresses of this part."""

from django.urls import path

from nailwright.plan.rehearsal import api

urlpatterns = [
    path("surveys/<uuid:survey_id>/rehearsals", api.RehearsalsView.as_view()),
]
