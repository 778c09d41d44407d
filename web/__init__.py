"""Kagami on the web: pages, persistence, and nothing that computes geometry."""
