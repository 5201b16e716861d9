"""Addresses of this part."""

from django.urls import path

from nailwright.plan.papers import api

urlpatterns = [
    path("programmes/<uuid:programme_id>/papers", api.PapersView.as_view()),
    path("programmes/<uuid:programme_id>/seasons", api.SeasonsView.as_view()),
    path("papers/<uuid:paper_id>", api.PaperView.as_view()),
]
