"""Addresses of Faces, below those of a mark."""

from django.urls import path

from web.faces import views

urlpatterns = [
    path("", views.faces, name="faces"),
    path("choose/", views.choose, name="face-choose"),
    path("walk/", views.walk, name="faces-walk"),
    path("bring/", views.bring, name="face-bring"),
    path("away/", views.away, name="face-away"),
]
