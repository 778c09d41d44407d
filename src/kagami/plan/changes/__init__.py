"""Changes to a plan: the only code that edits plans."""
