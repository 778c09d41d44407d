"""Addresses."""

from django.urls import include, path

from web.delivery.urls import handed_patterns
from web.health import health, ready

handler500 = "web.broken.broken"

urlpatterns = [
    path("health/", health, name="health"),
    path("ready/", ready, name="ready"),
    path("handed/", include(handed_patterns)),
    path("", include("web.signing.urls")),
    path("", include("web.shelf.urls")),
    path("marks/<int:mark_id>/", include("web.bench.urls")),
    path("marks/<int:mark_id>/range/", include("web.range.urls")),
    path("marks/<int:mark_id>/colourways/", include("web.colourways.urls")),
    path("marks/<int:mark_id>/faces/", include("web.faces.urls")),
    path("marks/<int:mark_id>/delivery/", include("web.delivery.urls")),
]
