"""The Range page: a measure shown over a row of values."""
