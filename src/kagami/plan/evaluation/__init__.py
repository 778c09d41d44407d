"""From a plan to figures, ink and readings."""
