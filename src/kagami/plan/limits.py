"""How much a plan may hold. Each limit is far above what a mark needs, and low enough that nothing hangs."""

from __future__ import annotations

from typing import Final

STEPS: Final = 400
MEASURES: Final = 100
TONES: Final = 60
COLOURWAYS: Final = 60
VARIANTS: Final = 24
FIELDS: Final = 40
"""Of one step."""
PATTERN_LENGTH: Final = 120
"""Of how files are named."""
PICTURE_SIZES: Final = 12
STOPS: Final = 12
"""Tones of one gradient."""
BANDS: Final = 40
"""Into which a gradient is resolved."""
COPIES: Final = 360
FIGURES_PER_STEP: Final = 60
PICKS: Final = 400
NODES: Final = 300
NUMBERS: Final = 400
NAME_LENGTH: Final = 40
SENTENCE_LENGTH: Final = 20_000
COMPLETIONS: Final = 40
NOTE_LENGTH: Final = 200
WORDS_LENGTH: Final = 200
"""Of words that are set as type."""
FACE_LENGTH: Final = 60
EXPRESSION_LENGTH: Final = 120
STORED_LENGTH: Final = 400
"""Of a value as documents hold it, in which ids stand for names."""
EXPRESSION_DEPTH: Final = 24
GREATEST_VALUE: Final = 1e9
DOCUMENT_BYTES: Final = 512_000
SHEET_REACH: Final = 10_000.0
"""Nothing may lie further from the sheet's origin than this many u."""
WORK: Final = 60_000
"""Curves of all steps together: it bounds the time of an evaluation, the same on every machine."""
SECONDS: Final = 8.0
"""Processor time of one evaluation, looked at between steps; only what no other limit foresaw comes near to it."""
RANGE_SECONDS: Final = 6.0
"""Processor time of one contact sheet."""
COPIES_IN_ALL: Final = 3600
"""Copies of one figure, those within copies counted too."""
SOLVED: Final = 6
"""Measures that are solved in one plan; each costs some fifty evaluations of what it reads."""
