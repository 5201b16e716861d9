"""Addresses of this part."""

from django.urls import path

from nailwright.plan.seasons import api

urlpatterns = [path("programmes/<uuid:programme_id>/seasons", api.SeasonsView.as_view())]
