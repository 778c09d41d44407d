"""Benchmarks: ours beside a reference, in one run. `./kagami bench [--json]`."""
