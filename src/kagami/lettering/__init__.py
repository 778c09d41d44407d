"""Type: faces, their measures, and text shaped into letters with outlines. It knows no plan and no page."""
