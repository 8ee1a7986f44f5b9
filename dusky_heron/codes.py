"""Codes that a telephone reads, and the small labels that carry one."""

import segno

from dusky_heron.presented import Answer


def squares(text: str) -> tuple[int, str]:
    """A text as a code that a telephone reads: how many squares a side, and the dark ones as an SVG path."""
    code = segno.make_qr(text, error="m")
    dark = ((x, y) for y, row in enumerate(code.matrix) for x, bit in enumerate(row) if bit)
    return len(code.matrix), "".join(f"M{x} {y}h1v1h-1z" for x, y in dark)


class LabelOut(Answer):
    """A small label: a title, lines under it, and a code of `modules` squares a side whose dark ones are an SVG path."""

    title: str
    lines: list[str]
    url: str
    modules: int
    dark: str

    @classmethod
    def of(cls, url: str, title: str, lines: list[str]) -> "LabelOut":
        """A label whose code opens an address."""
        modules, dark = squares(url)
        return cls(title=title, lines=[line for line in lines if line], url=url, modules=modules, dark=dark)
