"""Kagami's core: geometry, plan and exchange. It knows nothing of the web and runs without it."""
