"""Plans of marks, told by their revisions."""

from web.evaluation.references import PlanReference
from web.marks.models import Mark, Revision


def current_of(mark: Mark) -> PlanReference:
    """The plan of a mark as it stands."""
    return _reference(mark.current, mark.brand.studio_id)


def reference_to(revision: Revision) -> PlanReference:
    """The plan of a revision."""
    return _reference(revision, revision.mark.brand.studio_id)


def _reference(revision: Revision, studio: int) -> PlanReference:
    return PlanReference(revision.mark_id, revision.number, lambda: revision.plan, studio)
