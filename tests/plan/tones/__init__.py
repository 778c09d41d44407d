"""Tones, beside `kagami.plan.tones`."""
