"""Addresses of long work."""

from django.urls import path

from nailwright.jobs import api

urlpatterns = [
    path("jobs/<uuid:job_id>", api.JobView.as_view()),
    path("jobs/<uuid:job_id>/stop", api.JobStopView.as_view()),
]
