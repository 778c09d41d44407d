"""Studio and Membership: between people and what they make."""

from typing import Final

from django.conf import settings
from django.db import models

STUDIO_NAME_LENGTH: Final = 150


class Studio(models.Model):
    """People who work on the same brands."""

    name = models.CharField(max_length=STUDIO_NAME_LENGTH)
    created = models.DateTimeField(auto_now_add=True)
    members = models.ManyToManyField(settings.AUTH_USER_MODEL, through="Membership", related_name="studios")

    class Meta:
        ordering = ["created", "id"]

    def __str__(self) -> str:
        return self.name


class Role(models.TextChoices):
    """What a member of a studio may do: owners and designers change its marks, viewers see them."""

    OWNER = "owner"
    DESIGNER = "designer"
    VIEWER = "viewer"


class Membership(models.Model):
    """Somebody's part in a studio."""

    studio = models.ForeignKey(Studio, on_delete=models.CASCADE, related_name="memberships")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=10, choices=Role.choices, default=Role.DESIGNER)
    since = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["since", "id"]
        constraints = [models.UniqueConstraint(fields=["studio", "user"], name="member_once")]

    def __str__(self) -> str:
        return f"{self.user}: {self.role}"
