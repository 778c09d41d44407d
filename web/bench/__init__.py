"""The Bench: where a mark is built."""
