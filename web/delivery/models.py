"""Delivery and ClientLink: packages that were asked for, and whom they are shown to."""

import secrets

from django.conf import settings
from django.core import signing
from django.db import models, transaction
from django.db.models.signals import post_delete
from django.dispatch import receiver
from django.utils import timezone

from web.marks.models import Mark, Revision

SALT = "kagami.handed"


class State(models.TextChoices):
    """How far a package is."""

    WAITING = "waiting"
    MAKING = "making"
    READY = "ready"
    FAILED = "failed"
    CANCELLED = "cancelled"


class Delivery(models.Model):
    """A package of a mark's files, of one revision. It is offered once it is whole, never before."""

    mark = models.ForeignKey(Mark, on_delete=models.CASCADE, related_name="deliveries")
    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="+")
    number = models.PositiveIntegerField()
    brand_name = models.CharField(max_length=200)
    """As the brand was called then: it stands in the files' names."""
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)
    done = models.PositiveIntegerField(default=0)
    planned = models.PositiveIntegerField(default=0)
    contents = models.JSONField(default=list)
    """Its files, each a mapping of name, variant, purpose, bytes and what was read back in it."""
    refused = models.JSONField(default=list)
    """Files that were not handed out, each with its name and why."""
    package = models.FileField(upload_to="packages/", blank=True)
    bytes = models.PositiveBigIntegerField(default=0)
    digest = models.CharField(max_length=64, blank=True)
    equal = models.BooleanField(null=True)
    """Whether it came to the same bytes when it was made again; None where it was made once."""
    fault = models.CharField(max_length=400, blank=True)
    tries = models.PositiveSmallIntegerField(default=0)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    created = models.DateTimeField(auto_now_add=True)
    finished = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["mark", "number"], name="delivery_numbered_once")]

    def __str__(self) -> str:
        return f"{self.mark}: package {self.number}"

    @property
    def under_way(self) -> bool:
        """Whether it is being made, or soon will be."""
        return self.state in (State.WAITING, State.MAKING)

    @property
    def offered(self) -> bool:
        """Whether it can be taken: it is whole, or it was and is made again."""
        return bool(self.package) and self.state == State.READY


@receiver(post_delete, sender=Delivery)
def _drop_file(sender: type[Delivery], instance: Delivery, **_given: object) -> None:
    """A package that goes, alone or with its mark, leaves no file behind."""
    name, storage = instance.package.name, instance.package.storage
    if name:
        transaction.on_commit(lambda: storage.delete(name))


def _identity() -> str:
    return secrets.token_urlsafe(16)


class ClientLink(models.Model):
    """A link that shows and hands out one package to whom it is given, until it ends or is revoked.

    The address is the identity, signed: who reads the database alone cannot make one.
    """

    delivery = models.ForeignKey(Delivery, on_delete=models.CASCADE, related_name="links")
    identity = models.CharField(max_length=40, unique=True, default=_identity)
    until = models.DateTimeField()
    revoked = models.DateTimeField(null=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created", "-id"]

    def __str__(self) -> str:
        return f"{self.delivery} until {self.until:%d %B %Y}"

    @property
    def token(self) -> str:
        """What stands in its address."""
        return signing.Signer(salt=SALT).sign(self.identity)

    @property
    def open(self) -> bool:
        """Whether it hands anything out."""
        return self.revoked is None and timezone.now() < self.until
