"""Addresses of the Range page."""

from django.urls import path

from web.range import views

urlpatterns = [
    path("", views.over_range, name="range"),
    path("nudge/", views.nudge, name="range-nudge"),
    path("take/", views.take, name="range-take"),
]
