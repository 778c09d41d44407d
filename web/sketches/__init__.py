"""Sketches: what lies under a mark's sheet while it is built. None of it is part of the plan, or leaves with a file."""
