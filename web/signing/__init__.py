"""Signing in and out, and the page of one's own account."""
