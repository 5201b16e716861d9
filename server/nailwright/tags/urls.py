"""Addresses of marked fish and of the stock of tags."""

from django.urls import path

from nailwright.tags import api, exchange_api

urlpatterns = [
    path("fish/<uuid:fish_id>", api.FishView.as_view()),
    path("fish/<uuid:fish_id>/merged", api.MergeFishView.as_view()),
    path("fish/<uuid:fish_id>/split", api.SplitFishView.as_view()),
    path("fish/<uuid:fish_id>/taken-back", api.TakeBackFishView.as_view()),
    path("programmes/<uuid:programme_id>/tags", api.TagsView.as_view()),
    path("programmes/<uuid:programme_id>/tags/batches", api.BatchesView.as_view()),
    path("programmes/<uuid:programme_id>/tags/try", api.TryNumbersView.as_view()),
    path("programmes/<uuid:programme_id>/tags/file", api.NumbersFileView.as_view()),
    path("programmes/<uuid:programme_id>/tags/handed-out", api.HandingsOutView.as_view()),
    path("programmes/<uuid:programme_id>/tags/<str:kind>/<str:number>/moves", api.TagMovesView.as_view()),
    path("programmes/<uuid:programme_id>/foreign-marks", exchange_api.ForeignMarksView.as_view()),
    path("programmes/<uuid:programme_id>/foreign-marks/forgotten", exchange_api.ForgetForeignMarksView.as_view()),
    path("programmes/<uuid:programme_id>/transmitters", api.TransmittersView.as_view()),
    path("programmes/<uuid:programme_id>/tags/move", api.MoveTagsView.as_view()),
    path("tags/batches/<uuid:batch_id>", api.BatchView.as_view()),
    path("tags/batches/<uuid:batch_id>/numbers", api.BatchNumbersView.as_view()),
]
