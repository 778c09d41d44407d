"""Drawings that are brought."""
