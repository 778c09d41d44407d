"""Sketch: a picture that lies, or lay, under a mark's sheet."""

import uuid

from django.conf import settings
from django.core.files.storage import default_storage
from django.db import models, transaction
from django.db.models import Q
from django.db.models.signals import post_delete
from django.dispatch import receiver

from kagami.exchange.sketches.lying import Lying
from kagami.geometry.point import Point
from kagami.plan import limits
from web.marks.models import Mark

FOLDER = "sketches"


class Sketch(models.Model):
    """A picture of a mark: its file lies in the storage, made anew; nobody but the mark's studio is given it."""

    mark = models.ForeignKey(Mark, on_delete=models.CASCADE, related_name="sketches")
    name = models.CharField(max_length=limits.NAME_LENGTH)
    key = models.UUIDField(default=uuid.uuid4)
    """Of its file, which no other row shares."""
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    under = models.BooleanField(default=False)
    """Whether it is the one that lies under the sheet; others were laid aside."""
    shown = models.BooleanField(default=True)
    darkness = models.PositiveSmallIntegerField(default=40)
    """In percent."""
    right = models.FloatField(default=0.0)
    up = models.FloatField(default=0.0)
    wide = models.FloatField()
    turned = models.FloatField(default=0.0)
    before = models.JSONField(null=True)
    """How it lay before it was last moved: `right`, `up`, `wide`, `turned`."""
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created", "id"]
        constraints = [models.UniqueConstraint(fields=["mark"], condition=Q(under=True), name="sketch_under_once")]

    def __str__(self) -> str:
        return self.name

    @property
    def lying(self) -> Lying:
        """How it lies."""
        return Lying(Point(self.right, self.up), self.wide, self.turned)

    @lying.setter
    def lying(self, lying: Lying) -> None:
        self.right, self.up = lying.middle
        self.wide, self.turned = lying.wide, lying.turned

    @property
    def path(self) -> str:
        """Where its file lies."""
        return f"{FOLDER}/{self.mark_id}/{self.key}.jpg"


@receiver(post_delete, sender=Sketch)
def _taken_away(sender: type[Sketch], instance: Sketch, **_given: object) -> None:
    """The file goes with its row, once that is settled."""
    path = instance.path
    transaction.on_commit(lambda: default_storage.delete(path))
