"""Brand, Mark, Revision."""

from django.conf import settings
from django.db import models

from kagami.plan import limits
from kagami.plan.document import Plan, from_data
from web.accounts.models import Studio
from web.pictures.picture import Picture, stored_picture


class Brand(models.Model):
    """Whom marks are built for."""

    studio = models.ForeignKey(Studio, on_delete=models.CASCADE, related_name="brands")
    name = models.CharField(max_length=limits.NAME_LENGTH)
    palette = models.JSONField(default=list)
    """Its tones, in order: each a mapping of `name` and `colour` (#rrggbb)."""
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created", "id"]
        constraints = [models.UniqueConstraint(fields=["studio", "name"], name="brand_named_once")]

    def __str__(self) -> str:
        return self.name


class Mark(models.Model):
    """A mark; its plan is that of its current revision."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="marks")
    name = models.CharField(max_length=limits.NAME_LENGTH)
    current = models.ForeignKey("Revision", null=True, on_delete=models.PROTECT, related_name="+")
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["created", "id"]

    def __str__(self) -> str:
        return self.name


class Revision(models.Model):
    """One state of a mark's plan. Undo goes to the parent, redo to the newest child; none is ever removed."""

    mark = models.ForeignKey(Mark, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    parent = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="children")
    plan = models.JSONField()
    words = models.CharField(max_length=200)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    """Who made it; None when they are gone."""
    picture = models.JSONField(null=True)
    """What lists show of it (see `web.pictures.picture`), so that no list evaluates; None until it was drawn."""
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["mark", "number"], name="revision_numbered_once")]

    def __str__(self) -> str:
        return f"{self.number}: {self.words}"

    def load(self) -> Plan:
        """The plan as a document."""
        return from_data(self.plan)

    @property
    def shown(self) -> Picture:
        """What lists show of it."""
        return stored_picture(self.picture)


class Handled(models.Model):
    """A change that was made, by the id that its page gave it: sent again, it is recognised and not made twice."""

    mark = models.ForeignKey(Mark, on_delete=models.CASCADE, related_name="handled")
    change = models.UUIDField()
    step = models.CharField(max_length=limits.NAME_LENGTH, blank=True)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["mark", "change"], name="change_handled_once")]

    def __str__(self) -> str:
        return str(self.change)
