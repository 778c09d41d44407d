from django.apps import AppConfig


class SketchesConfig(AppConfig):
    name = "web.sketches"
    label = "sketches"
