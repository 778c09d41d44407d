from django.apps import AppConfig


class ColourwaysConfig(AppConfig):
    name = "web.colourways"
    label = "colourways"
