"""Delivery: which files a package holds, how each is written, and what is found when it is read back."""
