"""Addresses of waters."""

from django.urls import path

from nailwright.waters import api

urlpatterns = [
    path("programmes/<uuid:programme_id>/waters", api.WatersView.as_view()),
    path("programmes/<uuid:programme_id>/new-water", api.NewWaterView.as_view()),
    path("waters/<uuid:water_id>", api.WaterView.as_view()),
    path("waters/<uuid:water_id>/deleted", api.WaterDeletedView.as_view()),
    path("waters/<uuid:water_id>/sites", api.SitesView.as_view()),
    path("sites/<uuid:site_id>", api.SiteView.as_view()),
    path("sites/<uuid:site_id>/deleted", api.SiteDeletedView.as_view()),
    path("programmes/<uuid:programme_id>/series", api.SeriesListView.as_view()),
    path("waters/<uuid:water_id>/series", api.BringSeriesView.as_view()),
    path("series/<uuid:series_id>/deleted", api.SeriesDeletedView.as_view()),
    path("programmes/<uuid:programme_id>/layers", api.LayersView.as_view()),
]
