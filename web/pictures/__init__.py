"""What several pages show of a mark: its picture, and the Mirror."""
