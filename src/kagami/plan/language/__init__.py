"""Sentences: how a plan is written, parsed, forgiven and completed."""
