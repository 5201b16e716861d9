"""All addresses. Whatever is not the API is a screen, which the single page's own router shows."""

from django.urls import include, path, re_path

from nailwright.config import views
from nailwright.config.health import health

urlpatterns = [
    path("api/v1/", include("nailwright.programmes.urls")),
    path("api/v1/", include("nailwright.waters.urls")),
    path("api/v1/", include("nailwright.deck.urls")),
    path("api/v1/", include("nailwright.tags.urls")),
    path("api/v1/", include("nailwright.permits.urls")),
    path("api/v1/", include("nailwright.returns.urls")),
    path("api/v1/", include("nailwright.findings.urls")),
    path("api/v1/", include("nailwright.jobs.urls")),
    path("api/v1/", include("nailwright.records.urls")),
    path("api/v1/", include("nailwright.plan.urls")),
    path("api/v1/health", health),
    re_path(r"^api/", views.no_such_endpoint),
    path("r/<slug:address>", views.public_page),
    re_path(r"^.*$", views.application),
]
handler500 = "nailwright.config.views.failed"
