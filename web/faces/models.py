"""Typeface: a face that a studio has brought."""

from django.conf import settings
from django.db import models, transaction
from django.db.models.signals import post_delete
from django.dispatch import receiver

from kagami.plan import limits
from web.accounts.models import Studio
from web.evaluation.lent import file_path, take_file_away, write_list


class Typeface(models.Model):
    """A face of a studio: its file lies in the storage, checked and put together anew; nobody else is given it."""

    studio = models.ForeignKey(Studio, on_delete=models.CASCADE, related_name="faces")
    name = models.CharField(max_length=limits.FACE_LENGTH)
    digest = models.CharField(max_length=64)
    weight = models.FloatField(null=True)
    """None where it can be varied."""
    glyphs = models.PositiveIntegerField()
    bytes = models.PositiveIntegerField()
    embedding = models.CharField(max_length=100)
    restricted = models.BooleanField(default=False)
    licence = models.TextField(blank=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["studio", "name"], name="face_named_once")]

    def __str__(self) -> str:
        return self.name

    @property
    def path(self) -> str:
        """Where its file lies."""
        return file_path(self.studio_id, self.digest)


def write_down(studio: int) -> None:
    """Write down for evaluators which faces a studio has."""
    rows = Typeface.objects.filter(studio=studio)
    write_list(studio, {one.name: {"digest": one.digest, "weight": one.weight} for one in rows})


@receiver(post_delete, sender=Typeface)
def _taken_away(sender: type[Typeface], instance: Typeface, **_given: object) -> None:
    """The file goes with its row, once that is settled; another row may hold the same file."""
    studio, digest = instance.studio_id, instance.digest

    def settle() -> None:
        write_down(studio)
        if not Typeface.objects.filter(studio=studio, digest=digest).exists():
            take_file_away(studio, digest)

    transaction.on_commit(settle)
