"""Forms of the Shelf."""

from django import forms

from kagami.plan import limits
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.files import read_plan


class BrandForm(forms.Form):
    """A new brand."""

    name = forms.CharField(max_length=limits.NAME_LENGTH, label="Name of the brand")


class MarkForm(forms.Form):
    """A new mark: empty under a name, or from a plan file (which brings its own name, unless one is typed)."""

    name = forms.CharField(max_length=limits.NAME_LENGTH, required=False, label="Name of the mark")
    file = forms.FileField(required=False, label="Begin from a plan file")

    def clean(self) -> dict:
        """Read the file, or begin an empty plan."""
        data = super().clean()
        if self.errors:
            return data
        name, file = data.get("name", ""), data.get("file")
        if not name and not file:
            raise forms.ValidationError("Type a name for the mark, or choose a plan file that brings one.")
        if file and file.size > limits.DOCUMENT_BYTES:
            raise forms.ValidationError(
                f"This file is {file.size:,} bytes long; {limits.DOCUMENT_BYTES:,} is the most."
            )
        try:
            plan = read_plan(file.read()) if file else Plan(title=name)
        except PlanError as error:
            raise forms.ValidationError(f"{file.name}: {error}") from error
        data["plan"] = plan.model_copy(update={"title": name}) if name else plan
        return data
