from django.apps import AppConfig


class DeliveryConfig(AppConfig):
    name = "web.delivery"
    label = "delivery"
