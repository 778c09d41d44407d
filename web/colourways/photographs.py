"""The main colours of a photograph: decoded within limits, clustered in OKLab."""

import io
from typing import Final

import numpy as np
from coloraide import Color
from django.utils.translation import gettext as _
from PIL import Image, UnidentifiedImageError

from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from web.marks.services.palettes import MOST_BYTES

MOST_PIXELS: Final = 40_000_000
SIDE: Final = 96
COLOURS: Final = 6
ROUNDS: Final = 12
FORMATS: Final = ("JPEG", "PNG", "WEBP")


class NoPhotograph(Exception):
    """A file whose colours cannot be taken."""


def main_colours(_plan: Plan, _cache: Cache, content: bytes) -> list[dict[str, str]]:
    """The main colours of a photograph as named tones, the most frequent first.

    Raises:
        NoPhotograph: it is too large, or no picture that is known.
    """
    if len(content) > MOST_BYTES:
        raise NoPhotograph(_("This file is larger than {most} bytes. Make it smaller.").format(most=f"{MOST_BYTES:,}"))
    try:
        with Image.open(io.BytesIO(content), formats=FORMATS) as picture:
            if picture.width * picture.height > MOST_PIXELS:
                raise NoPhotograph(_("This picture has too many pixels. Make it smaller."))
            picture.draft("RGB", (SIDE * 2, SIDE * 2))
            small = picture.convert("RGB")
            small.thumbnail((SIDE, SIDE))
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        raise NoPhotograph(_("This is no picture that can be read: a JPEG, PNG or WebP file is.")) from error
    pixels = np.asarray(small, dtype=np.float64).reshape(-1, 3) / 255.0
    return [{"name": f"photo {k}", "colour": colour} for k, colour in enumerate(_clustered(pixels), 1)]


def _clustered(pixels: np.ndarray) -> list[str]:
    """Centres of clusters in OKLab, those of most pixels first; centres that are hardly told apart are one.

    Begun at places spread along the pixels sorted by lightness, so that equal pictures give equal colours. Source:
    Lloyd, Least squares quantization in PCM (IEEE Transactions on Information Theory 28, 1982).
    """
    places = _oklab(pixels)
    order = places[np.argsort(places[:, 0], kind="stable")]
    centres = order[np.linspace(0, len(order) - 1, COLOURS).astype(int)]
    nearest = np.zeros(len(places), dtype=np.intp)
    for _round in range(ROUNDS):
        nearest = np.argmin(((places[:, None, :] - centres[None, :, :]) ** 2).sum(axis=2), axis=1)
        for k in range(len(centres)):
            if np.any(nearest == k):
                centres[k] = places[nearest == k].mean(axis=0)
    counts = np.bincount(nearest, minlength=len(centres))
    found: list[str] = []
    for k in np.argsort(-counts, kind="stable").tolist():
        colour = Color("oklab", centres[k].tolist()).convert("srgb").fit().to_string(hex=True)
        if counts[k] and all(Color(colour).delta_e(Color(known), method="2000") > 4 for known in found):
            found.append(colour)
    return found


def _oklab(pixels: np.ndarray) -> np.ndarray:
    """sRGB (0 to 1) as OKLab. Source: CSS Color Module Level 4, W3C 2024, section 18, sample code."""
    linear = np.where(pixels <= 0.04045, pixels / 12.92, ((pixels + 0.055) / 1.055) ** 2.4)
    to_lms = np.array(
        [
            [0.4122214708, 0.5363325363, 0.0514459929],
            [0.2119034982, 0.6806995451, 0.1073969566],
            [0.0883024619, 0.2817188376, 0.6299787005],
        ]
    )
    to_lab = np.array(
        [
            [0.2104542553, 0.7936177850, -0.0040720468],
            [1.9779984951, -2.4285922050, 0.4505937099],
            [0.0259040371, 0.7827717662, -0.8086757660],
        ]
    )
    return np.asarray(np.cbrt(linear @ to_lms.T) @ to_lab.T)
