"""Addresses."""

from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.views import LoginView, LogoutView
from django.urls import include, path

urlpatterns = [
    path("sign-in/", login_not_required(LoginView.as_view(redirect_authenticated_user=True)), name="sign-in"),
    path("sign-out/", LogoutView.as_view(), name="sign-out"),
    path("", include("web.shelf.urls")),
    path("marks/<int:mark_id>/", include("web.bench.urls")),
    path("marks/<int:mark_id>/range/", include("web.range.urls")),
    path("marks/<int:mark_id>/delivery/", include("web.delivery.urls")),
]
