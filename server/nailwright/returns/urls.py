"""Addresses of reports."""

from django.urls import path

from nailwright.returns.api import inbox, kits, page, public, rewards

urlpatterns = [
    path("public/pages/<slug:address>", public.PublicPageView.as_view()),
    path("public/pages/<slug:address>/waters", public.PublicWatersView.as_view()),
    path("public/reports/<str:link>", public.PublicReportView.as_view()),
    path("public/reports/<str:link>/contact/erased", public.EraseContactView.as_view()),
    path("public/reports/<str:link>/certificate.<str:form>", public.CertificateView.as_view()),
    path("programmes/<uuid:programme_id>/returns", inbox.ReturnsView.as_view()),
    path("programmes/<uuid:programme_id>/returns/decisions", inbox.DecisionsView.as_view()),
    path("programmes/<uuid:programme_id>/public-page", page.PageSettingsView.as_view()),
    path("programmes/<uuid:programme_id>/public-page/notice.pdf", page.NoticeView.as_view()),
    path("programmes/<uuid:programme_id>/kits", kits.KitsView.as_view()),
    path("kits/<uuid:kit_id>", kits.KitView.as_view()),
    path("kits/<uuid:kit_id>/summary", kits.KitSummaryView.as_view()),
    path("kits/<uuid:kit_id>/letter", kits.CardLetterView.as_view()),
    path("card-photos/<uuid:card_photo_id>.jpg", kits.CardPhotoView.as_view()),
    path("returns/<uuid:return_id>", inbox.ReturnView.as_view()),
    path("returns/<uuid:return_id>/reward", rewards.RewardView.as_view()),
    path("programmes/<uuid:programme_id>/rewards", rewards.BudgetView.as_view()),
    path("returns/<uuid:return_id>/match", inbox.MatchView.as_view()),
    path("returns/<uuid:return_id>/photo.jpg", inbox.LegendPhotoView.as_view()),
]
