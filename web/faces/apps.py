from django.apps import AppConfig


class FacesConfig(AppConfig):
    name = "web.faces"
    label = "faces"
