"""Values: typed expressions, and values as documents hold them."""
