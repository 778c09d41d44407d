"""Signing in and the account: its page, and its end."""
