"""Addresses of this part."""

from django.urls import path

from nailwright.plan.water import api

urlpatterns = [
    path("waters/<uuid:water_id>/reach", api.ReachView.as_view()),
    path("waters/<uuid:water_id>/line", api.ReachLineView.as_view()),
    path("waters/<uuid:water_id>/zones", api.ZonesView.as_view()),
]
