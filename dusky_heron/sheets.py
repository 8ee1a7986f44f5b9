"""A sheet as a spreadsheet writes it: columns by name, any common delimiter, decimal commas, a mark at the beginning."""

import csv
import io
import re
from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from dusky_heron.core.errors import InputError
from dusky_heron.core.figures import SAME_LENGTH, readings, sign_told, the_number

MOST_BYTES, MOST_ROWS, LONGEST_CELL = 16_000_000, 100_000, 500
FORMULA = ("=", "+", "-", "@", "\t", "\r")


@dataclass(frozen=True, slots=True)
class Sheet:
    """What a file holds: which column is which, those nobody knows, and its rows by line."""

    columns: tuple[str, ...]
    unknown: tuple[str, ...]
    rows: tuple[tuple[int, dict[str, str]], ...]


def read_sheet(content: bytes, columns: Mapping[str, tuple[str, ...]], must: str = "marking") -> Sheet:
    """Read a file as a sheet of known columns, one of which it must have; raises InputError (`file`)."""
    if len(content) > MOST_BYTES:
        raise InputError("file", f"The file is larger than {MOST_BYTES // 1_000_000} MB: split it.")
    text = _decoded(content)
    lines = text.splitlines()
    if not any(line.strip() for line in lines):
        raise InputError("file", "The file is empty.")
    delimiter = max(";,\t|", key=lines[0].count)
    try:
        table = list(csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=True))
    except csv.Error:
        raise InputError("file", "A quotation mark is opened and not closed: check the cells with quotation marks.") from None
    head = [_plain(cell).lower() for cell in table[0]]
    names = [next((name for name, known in columns.items() if cell in known), "") for cell in head]
    if must not in names:
        raise InputError("file", f"No column is called {must}: the first line must name the columns.")
    doubled = {name for name in names if name and names.count(name) > 1}
    if doubled:
        raise InputError("file", f"Two columns are {', '.join(sorted(doubled))}: keep one.")
    rows = list(_rows(table[1:], names))
    if not rows:
        raise InputError("file", "There are columns, but no rows under them.")
    if len(rows) > MOST_ROWS:
        raise InputError("file", f"More than {MOST_ROWS} rows: split the file.")
    unknown = tuple(cell for cell, name in zip(head, names, strict=True) if cell and not name)
    return Sheet(tuple(name for name in names if name), unknown, tuple(rows))


def _decoded(content: bytes) -> str:
    if b"\x00" in content[:4096] and not content.startswith((b"\xff\xfe", b"\xfe\xff")):
        raise InputError("file", "This is no text file: save the sheet as CSV first.")
    for encoding in ("utf-16",) if content.startswith((b"\xff\xfe", b"\xfe\xff")) else ("utf-8-sig", "cp1252"):
        try:
            return content.decode(encoding)
        except UnicodeDecodeError:
            continue
    raise InputError("file", "Its letters cannot be read: save the sheet as CSV in UTF-8.")


def _rows(table: list[list[str]], names: list[str]) -> Iterator[tuple[int, dict[str, str]]]:
    for line, cells in enumerate(table, start=2):
        if any(cell.strip() for cell in cells):
            yield line, {name: _plain(cell) for name, cell in zip(names, cells, strict=False) if name}


def _plain(cell: str) -> str:
    """A cell without stray blanks, and without the mark that keeps a spreadsheet from running it."""
    plain = " ".join(cell.split())
    return plain[1:] if plain.startswith("'") and plain[1:2] in FORMULA else plain


def decimal_sign_of(sheet: Sheet, columns: Collection[str]) -> str:
    """The decimal sign that the numbers of a file tell together; "" where they tell none, or one this and another that."""
    signs = {sign_told(_bare(row[name])) for _, row in sheet.rows for name in columns if row.get(name)} - {""}
    return signs.pop() if len(signs) == 1 else ""


def _bare(cell: str) -> str:
    """A number without its sign and its unit."""
    plain = cell.translate(SAME_LENGTH)
    return re.sub(r"\s*(mm|pcs|€|\$|£)\.?$", "", plain, flags=re.IGNORECASE).lstrip("-+ ").strip()


def plain_number(name: str, cell: str, *, whole: bool = False, decimal: str = "") -> str:
    """A number with a decimal comma or point, thousands apart, and a unit of length left off.

    One separator before exactly three figures is told by the decimal sign in use, and asked about where none is known.
    """
    figures = _bare(cell)
    if not figures or not set(figures) <= set("0123456789., '") or not readings(figures):
        raise InputError(name, f"“{cell[:40]}” is not a number.")
    number = the_number(figures, name, name.replace("_", " "), decimal=decimal)
    number = f"-{number}" if cell.translate(SAME_LENGTH).lstrip().startswith("-") else number
    if whole and re.fullmatch(r"-?\d+\.0+", number):
        number = number.split(".")[0]
    return number


def write_sheet(columns: tuple[str, ...], rows: Iterator[tuple[Any, ...]]) -> str:
    """Rows as CSV; a cell that begins like a formula is marked so that no spreadsheet runs it."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(columns)
    writer.writerows([_guarded(cell) for cell in row] for row in rows)
    return out.getvalue()


def _guarded(cell: Any) -> str:
    text = "" if cell is None else "yes" if cell is True else "" if cell is False else str(cell)
    return f"'{text}" if text.startswith(FORMULA) else text
