from django.apps import AppConfig


class BenchConfig(AppConfig):
    name = "web.bench"
    label = "bench"
