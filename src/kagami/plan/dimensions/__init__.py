"""What values, places and choices are on the sheet: drawn there as dimensions that can be dragged."""
