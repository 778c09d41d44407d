"""Addresses of the Shelf."""

from django.urls import path

from web.shelf import views

urlpatterns = [
    path("", views.shelf, name="shelf"),
    path("brands/", views.new_brand, name="new-brand"),
    path("brands/<int:brand_id>/", views.brand, name="brand"),
    path("brands/<int:brand_id>/remove/", views.remove_brand, name="remove-brand"),
    path("marks/<int:mark_id>/copy/", views.copy_mark, name="copy-mark"),
    path("marks/<int:mark_id>/remove/", views.remove_mark, name="remove-mark"),
    path("brands/<int:brand_id>/marks/", views.new_mark, name="new-mark"),
]
