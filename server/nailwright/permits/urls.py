"""Addresses of permits."""

from django.urls import path

from nailwright.permits import api, course_api

urlpatterns = [
    path("programmes/<uuid:programme_id>/permits", api.PermitsView.as_view()),
    path("programmes/<uuid:programme_id>/tagging-course", course_api.CourseView.as_view()),
    path("permits/<uuid:permit_id>", api.PermitView.as_view()),
    path("permits/<uuid:permit_id>/report", api.PermitReportView.as_view()),
    path("programmes/<uuid:programme_id>/allowances", api.AllowancesView.as_view()),
    path("allowances/<uuid:allowance_id>", api.AllowanceView.as_view()),
    path("allowances/<uuid:allowance_id>/deleted", api.AllowanceDeletedView.as_view()),
]
