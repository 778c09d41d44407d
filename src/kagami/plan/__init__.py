"""The plan of a mark: measures, steps, and everything that is computed from them."""
