"""Addresses of the account."""

from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path

from web.signing import views

urlpatterns = [
    path("sign-in/", login_not_required(LoginView.as_view(redirect_authenticated_user=True)), name="sign-in"),
    path("sign-out/", LogoutView.as_view(), name="sign-out"),
    path("account/", views.account, name="account"),
]
