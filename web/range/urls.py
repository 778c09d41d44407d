"""Addresses of the Range page."""

from django.urls import path

from web.range import views

urlpatterns = [
    path("", views.over_range, name="range"),
    path("take/", views.take, name="range-take"),
]
