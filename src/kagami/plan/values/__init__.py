"""Values: typed expressions, measures, readings of figures, solving."""
