"""Addresses of Colourways."""

from django.urls import path

from web.colourways import views

urlpatterns = [
    path("", views.colourways, name="colourways"),
    path("change/", views.change, name="colourways-change"),
    path("walk/", views.walk, name="colourways-walk"),
    path("palette/", views.palette, name="colourways-palette"),
    path("photograph/", views.photograph, name="colourways-photograph"),
]
