from django.apps import AppConfig


class RangeConfig(AppConfig):
    name = "web.range"
    label = "range"
