"""Sentences: how a plan is written, parsed, completed and translated."""
