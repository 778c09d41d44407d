"""Pictures that are brought: what is read, what of them is kept, and what is refused with a reason."""

from __future__ import annotations

import io
import struct
import zlib
from unittest import TestCase

import numpy as np
from PIL import Image

from kagami.exchange.sketches.checking import MOST_BYTES, MOST_SIDE, checked_picture
from kagami.exchange.sketches.errors import SketchError
from kagami.plan.messages import TEXTS

SAVED = {"JPEG": {}, "PNG": {}, "WEBP": {"lossless": True}, "TIFF": {}, "GIF": {}, "BMP": {}}


def picture(form: str = "PNG", mode: str = "RGB", size: tuple[int, int] = (60, 40), **given: object) -> bytes:
    """A picture whose left half is dark."""
    tone = np.full((size[1], size[0]), 240, np.uint8)
    tone[:, : size[0] // 2] = 20
    image = Image.fromarray(tone).convert(mode)
    file = io.BytesIO()
    image.save(file, form, **given)
    return file.getvalue()


def seen(data: bytes) -> np.ndarray:
    """The tones of what is kept."""
    return np.asarray(Image.open(io.BytesIO(checked_picture(data).data)).convert("L"), float)


class Checking(TestCase):
    def refused(self, data: bytes, code: str) -> None:
        with self.assertRaises(SketchError) as caught:
            checked_picture(data)
        self.assertEqual(caught.exception.code, code)
        TEXTS[code].format(**caught.exception.values)

    def test_usual_formats_come_through_as_they_look(self) -> None:
        for form, given in SAVED.items():
            with self.subTest(form):
                tones = seen(picture(form, **given))
                self.assertEqual(tones.shape, (40, 60))
                self.assertLess(tones[:, :28].max(), 60)
                self.assertGreater(tones[:, 32:].min(), 200)

    def test_tones_of_every_depth(self) -> None:
        for mode in ("L", "1", "P", "CMYK", "I;16", "RGBA", "LA"):
            form = "TIFF" if mode in ("CMYK",) else "PNG"
            tones = seen(picture(form, mode))
            with self.subTest(mode):
                self.assertLess(tones[:, :28].mean(), 90)
                self.assertGreater(tones[:, 32:].mean(), 200)

    def test_what_is_clear_lies_on_white(self) -> None:
        file = io.BytesIO()
        Image.new("RGBA", (40, 40), (0, 0, 0, 0)).save(file, "PNG")
        self.assertGreater(seen(file.getvalue()).min(), 250)

    def test_nothing_but_pixels_is_kept(self) -> None:
        """Exif 2.32: tag 0x010F the maker, 0x0112 the way it was held, IFD 0x8825 the place."""
        exif = Image.Exif()
        exif[0x010F], exif[0x0112] = "Somebody's camera", 6
        exif.get_ifd(0x8825)[1] = "N"
        kept = checked_picture(picture("JPEG", exif=exif, comment=b"a remark"))
        self.assertEqual((kept.width, kept.height), (40, 60))  # held upright
        for word in (b"Exif", b"Somebody", b"remark"):
            self.assertNotIn(word, kept.data)
        tones = np.asarray(Image.open(io.BytesIO(kept.data)).convert("L"), float)
        self.assertLess(tones[:25].mean(), 60)
        self.assertGreater(tones[35:].mean(), 200)

    def test_a_large_one_is_made_as_large_as_a_sheet_can_use(self) -> None:
        kept = checked_picture(picture("JPEG", size=(5000, 1000)))
        self.assertEqual((kept.width, kept.height), (MOST_SIDE, MOST_SIDE // 5))

    def test_what_is_no_picture(self) -> None:
        svg = b"<svg xmlns='http://www.w3.org/2000/svg'/>"
        for data in (b"", b"%!PS\n", svg, b"GIF89a", picture()[:80]):
            with self.subTest(data[:20]):
                self.refused(data, "sketch-unread")

    def test_what_is_broken_within(self) -> None:
        good = picture("JPEG", size=(400, 300))
        for at in range(30, len(good) - 10, 97):
            broken = good[:at] + bytes(4) + good[at + 4 :]
            try:
                kept = checked_picture(broken)
            except SketchError as error:
                self.assertIn(error.code, ("sketch-unread", "sketch-too-large", "sketch-too-small"))
            else:
                self.assertGreater(kept.width, 0)

    def test_sizes_that_are_too_much_or_too_little(self) -> None:
        self.refused(bytes(MOST_BYTES + 1), "sketch-too-heavy")
        self.refused(picture(size=(12, 200)), "sketch-too-small")
        head = b"\x89PNG\r\n\x1a\n"
        told = struct.pack(">IIBBBBB", 30_000, 30_000, 1, 0, 0, 0, 0)
        chunk = b"IHDR" + told
        bomb = head + struct.pack(">I", 13) + chunk + struct.pack(">I", zlib.crc32(chunk))
        bomb += struct.pack(">I", 0) + b"IDAT" + struct.pack(">I", zlib.crc32(b"IDAT"))
        self.refused(bomb, "sketch-too-large")
