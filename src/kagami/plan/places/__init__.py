"""Places and parts of figures: references, anchors, regions, selections of copies."""
