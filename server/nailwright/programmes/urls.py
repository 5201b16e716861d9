"""Addresses of people and programmes."""

from django.urls import path

from nailwright.programmes import api

urlpatterns = [
    path("session", api.SessionView.as_view()),
    path("session/demo", api.DemoSessionView.as_view()),
    path("programmes/<uuid:programme_id>/sync", api.SyncView.as_view()),
    path("token", api.TokenView.as_view()),
]
