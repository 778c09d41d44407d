"""Evaluation apart from the web: one door, and behind it a few processes that keep what they drew."""
