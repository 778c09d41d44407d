"""Where the values, places and choices of a step lie on the sheet, drawn there as dimensions that can be dragged."""
