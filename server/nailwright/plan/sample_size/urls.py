"""Addresses of this part."""

from django.urls import path

from nailwright.plan.sample_size import api

urlpatterns = [
    path("programmes/<uuid:programme_id>/enough", api.EnoughView.as_view()),
]
