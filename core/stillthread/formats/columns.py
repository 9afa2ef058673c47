"""Delimited text as loggers, spreadsheets and people write it: decoded, split, numbers read."""

from __future__ import annotations

import csv
import io
import math

from stillthread.errors import BadFile


def decode(data: bytes, most_bytes: int, field: str, advice: str) -> str:
    """Return the text of a file, or raise `BadFile` when it is too large, empty, or not UTF-8."""
    if len(data) > most_bytes:
        raise BadFile(f"The file is larger than {most_bytes // 1_000_000} MB. {advice}", field=field)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise BadFile("The file is not UTF-8 text. Save it as CSV (UTF-8) and try again.", field=field) from None
    if "\x00" in text:
        raise BadFile("The file is not text. Save it as CSV (UTF-8) and try again.", field=field)
    if not text.strip():
        raise BadFile("The file is empty.", field=field)
    return text


def rows(text: str, most: int, field: str, wanted: str, advice: str) -> list[tuple[int, list[str]]]:
    """Return (1-based line number, cells) for each line that is not blank; comma, semicolon or tab, whichever comes first."""
    first = next(line for line in text.splitlines() if line.strip())
    separator = next((mark for mark in (";", "\t", ",") if mark in first), None)
    if separator is None:
        raise BadFile(f"The file has one column. {wanted}", line=1, field=field)
    found: list[tuple[int, list[str]]] = []
    # newline=None: a lone carriage return ends a line too, as some spreadsheets still write it.
    reader = csv.reader(io.StringIO(text, newline=None), delimiter=separator)
    try:
        for cells in reader:
            if any(cell.strip() for cell in cells):
                found.append((reader.line_num, cells))
            if len(found) > most + 1:
                raise BadFile(f"The file has more than {most} rows. {advice}", field=field)
    except csv.Error:
        line = reader.line_num
        raise BadFile(f"Line {line}: this is not a row of cells. Is a quote left open?", line=line, field=field) from None
    return found


FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r")


def defused(cell: object) -> object:
    """Return a cell as it may stand in a file for others: a spreadsheet would run a text that begins like a formula, so an
    apostrophe goes before it. `as_it_was` takes it away again."""
    if isinstance(cell, str) and cell.lstrip("'").startswith(FORMULA_STARTS) and number(cell) is None:
        return f"'{cell}"
    return cell


def as_it_was(cell: str) -> str:
    """Return the text of a cell that `defused` may have written."""
    return cell[1:] if cell.startswith("'") and cell.lstrip("'").startswith(FORMULA_STARTS) else cell


def number(cell: str) -> float | None:
    """Return the number in a cell, with a decimal point or comma; None when it holds none."""
    try:
        value = float(cell.strip().replace(",", "."))
    except ValueError:
        return None
    return value if math.isfinite(value) else None
