"""Sketches: pictures of drawings on paper, checked and made small, and how they lie under a sheet."""
