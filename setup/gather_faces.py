"""Gathers the faces that ship with the application from installed npm packages: `gather_faces.py NODE_MODULES`.

A face's files go into a folder of their own, with its licence; compressed ones are unpacked, their data unchanged, so
that nothing has to be unpacked when a mark is drawn.
"""

from __future__ import annotations

import pathlib
import shutil
import sys

from fontTools.ttLib import TTFont

TO = pathlib.Path(__file__).parents[1] / "src" / "kagami" / "lettering" / "faces"
VARIABLE = {
    "jost": ("latin-wght", "latin-ext-wght"),
    "hanken-grotesk": ("latin-wght", "latin-ext-wght"),
    "source-sans-3": ("latin-wght", "latin-ext-wght"),
    "nunito": ("latin-wght", "latin-ext-wght"),
    "bitter": ("latin-wght", "latin-ext-wght"),
    "bodoni-moda": ("latin-opsz", "latin-ext-opsz"),
    "cinzel": ("latin-wght", "latin-ext-wght"),
    "noto-sans-hebrew": ("latin-wdth", "latin-ext-wdth", "hebrew-wdth"),
}
"""Of @fontsource-variable: the parts into which a face is divided, those that are used most first."""
STATIC = {
    "eb-garamond": ("400Regular", "500Medium", "600SemiBold", "700Bold", "800ExtraBold"),
    "barlow-condensed": ("300Light", "400Regular", "500Medium", "600SemiBold", "700Bold", "800ExtraBold"),
}
"""Of @expo-google-fonts: a weight a file."""


def main(packages: pathlib.Path) -> None:
    """Write all files anew."""
    for name, parts in VARIABLE.items():
        package, folder = packages / "@fontsource-variable" / name, TO / name
        folder.mkdir(parents=True, exist_ok=True)
        for part in parts:
            font = TTFont(package / "files" / f"{name}-{part}-normal.woff2")
            font.flavor = None
            font.save(folder / f"{part}.ttf")
        shutil.copyfile(package / "LICENSE", folder / "LICENSE")
    for name, weights in STATIC.items():
        package, folder = packages / "@expo-google-fonts" / name, TO / name
        folder.mkdir(parents=True, exist_ok=True)
        for weight in weights:
            (file,) = (package / weight).glob("*.ttf")
            shutil.copyfile(file, folder / f"{weight[:3]}.ttf")
        shutil.copyfile(package / "LICENSE_FONT", folder / "LICENSE")


if __name__ == "__main__":
    main(pathlib.Path(sys.argv[1]))
