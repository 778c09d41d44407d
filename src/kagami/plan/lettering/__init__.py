"""Words of a mark: how they are set, where they run, and what is drawn of them."""
