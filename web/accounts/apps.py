from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "web.accounts"
    label = "accounts"
