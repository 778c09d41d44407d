from django.apps import AppConfig


class MarksConfig(AppConfig):
    name = "web.marks"
    label = "marks"
