"""From a plan to measures, figures, ink and readings."""
