"""Addresses of findings."""

from django.urls import path

from nailwright.findings import api

urlpatterns = [
    path("programmes/<uuid:programme_id>/selection-options", api.SelectionOptionsView.as_view()),
    path("programmes/<uuid:programme_id>/findings/size", api.SizeView.as_view()),
    path("programmes/<uuid:programme_id>/findings/condition", api.ConditionView.as_view()),
    path("programmes/<uuid:programme_id>/findings/size-compared", api.SizeComparedView.as_view()),
    path("programmes/<uuid:programme_id>/findings/condition-compared", api.ConditionComparedView.as_view()),
    path("programmes/<uuid:programme_id>/findings/cohorts", api.CohortsView.as_view()),
    path("programmes/<uuid:programme_id>/register", api.RegisterView.as_view()),
    path("programmes/<uuid:programme_id>/captures.csv", api.RowsView.as_view()),
    path("programmes/<uuid:programme_id>/captures.zip", api.DataPackageView.as_view()),
]
