"""Addresses of the Shelf."""

from django.urls import path

from web.shelf import views

urlpatterns = [
    path("", views.shelf, name="shelf"),
    path("brands/", views.new_brand, name="new-brand"),
    path("brands/<int:brand_id>/marks/", views.new_mark, name="new-mark"),
]
