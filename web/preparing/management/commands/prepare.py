"""Bring the database and the static files up to date, and load the demo studio."""

import os

from django.core.management import call_command
from django.core.management.base import BaseCommand

from kagami.geometry.compiled.decorator import forget_older
from kagami.warm import warm
from web.preparing.demo import load_demo


class Command(BaseCommand):
    help = "migrate, collect static files, load the demo studio when KAGAMI_DEMO_PASSWORD is set"

    def handle(self, *args, **options):
        warm()  # compiled here, before anybody waits for it
        forget_older()
        call_command("migrate", verbosity=0, interactive=False)
        call_command("draw_pictures")
        call_command("collectstatic", verbosity=0, interactive=False, clear=True)
        password = os.environ.get("KAGAMI_DEMO_PASSWORD")
        if password:
            load_demo(password)
