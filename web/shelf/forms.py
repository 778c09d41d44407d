"""Forms of the Shelf."""

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from kagami.exchange.brought.document import PACKED
from kagami.plan import limits
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.files import load_plan


class BrandForm(forms.Form):
    """A new brand."""

    name = forms.CharField(max_length=limits.NAME_LENGTH, label=gettext_lazy("Name of the brand"))


class MarkForm(forms.Form):
    """A new mark: empty under a name, or from a plan file (which brings its own name, unless one is typed)."""

    name = forms.CharField(max_length=limits.NAME_LENGTH, required=False, label=gettext_lazy("Name of the mark"))
    file = forms.FileField(required=False, label=gettext_lazy("Begin from a plan file"))

    def clean(self) -> dict:
        """Read the file, or begin an empty plan."""
        data = super().clean()
        if self.errors:
            return data
        name, file = data.get("name", ""), data.get("file")
        if not name and not file:
            raise forms.ValidationError(_("Type a name for the mark, or choose a plan file that brings one."))
        if file and file.size > limits.DOCUMENT_BYTES:
            text = _("This file is {size} bytes long; {most} is the most.")
            raise forms.ValidationError(text.format(size=f"{file.size:,}", most=f"{limits.DOCUMENT_BYTES:,}"))
        content = file.read() if file else b""
        if content.lstrip().startswith((b"<", PACKED)):
            text = _(
                "{name} is no plan but a drawing. Begin an empty mark, and bring it there with “+ drawing”: you see "
                "what it comes to before it is added."
            )
            raise forms.ValidationError(text.format(name=file.name))
        try:
            plan = load_plan(content) if file else Plan(title=name)
        except PlanError as error:
            raise forms.ValidationError(f"{file.name}: {error}") from error
        data["plan"] = plan.model_copy(update={"title": name}) if name else plan
        return data
