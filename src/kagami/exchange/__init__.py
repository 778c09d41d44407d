"""What crosses the border: documents out, and later in. It knows shapes and artwork, and nothing of the web."""
