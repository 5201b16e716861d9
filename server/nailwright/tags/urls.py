"""Addresses of marked fish."""

from django.urls import path

from nailwright.tags import api

urlpatterns = [path("fish/<uuid:fish_id>", api.FishView.as_view())]
