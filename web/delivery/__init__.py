"""Delivery: the finished mark as files."""
