from django.apps import AppConfig


class ShelfConfig(AppConfig):
    name = "web.shelf"
    label = "shelf"
