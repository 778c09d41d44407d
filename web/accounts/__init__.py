"""Studios, and who belongs to them."""
