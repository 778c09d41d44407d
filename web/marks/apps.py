from django.apps import AppConfig

from kagami.plan.steps.reading import make_schemas


class MarksConfig(AppConfig):
    name = "web.marks"
    label = "marks"

    def ready(self) -> None:
        """Plans are read in many threads at once."""
        make_schemas()
