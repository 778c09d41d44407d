"""Draw the pictures of marks that have none yet, such as those of an older installation."""

from django.core.management.base import BaseCommand

from web.evaluation.door import ask
from web.marks.models import Mark
from web.marks.references import reference_to
from web.marks.services.works import picture_data


class Command(BaseCommand):
    help = "draw the pictures that lists show, where they are missing"

    def handle(self, *args, **options):
        missing = Mark.objects.filter(current__picture=None).select_related("current")
        for mark in missing.iterator(chunk_size=50):
            mark.current.picture = ask(picture_data, reference_to(mark.current))
            mark.current.save(update_fields=["picture"])
