"""Places and parts of figures: anchors, regions, selections of copies."""
