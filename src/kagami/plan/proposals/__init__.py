"""What Kagami proposes for a small variant, and how it is found."""
