"""A fly box as CSV, in and out, for a spreadsheet or another program."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence

from stillthread.errors import BadFile, StillthreadError
from stillthread.formats.columns import decode, number, rows
from stillthread.tackle.flies import Fly
from stillthread.tackle.flybox import BoxFly

MOST_BYTES = 1_000_000
MOST_FLIES = 400
COLUMNS = (
    "name", "foods", "style", "colour", "hook_size", "dressing", "wire", "bead", "bead_mm", "foam_mm3", "extra_g", "left",
)  # fmt: skip


def write_flies_csv(flies: Sequence[BoxFly]) -> bytes:
    """Return flies as CSV that `read_flies_csv` reads again; several foods are joined by a space."""
    text = io.StringIO()
    out = csv.writer(text, lineterminator="\n")
    out.writerow(COLUMNS)
    for one in flies:
        fly = one.fly
        out.writerow(
            [fly.name, " ".join(one.foods), one.style, one.colour, fly.hook_size, fly.dressing, fly.wire, fly.bead,
             f"{fly.bead_mm:g}", f"{fly.foam_mm3:g}", f"{fly.extra_g:g}", one.left]
        )  # fmt: skip
    return text.getvalue().encode()


def read_flies_csv(data: bytes) -> tuple[BoxFly, ...]:
    """Return the flies of a CSV with a header; columns in any order, all but `name` and `hook_size` may be missing.

    Raises
    ------
    BadFile
        With the line at fault: no header, no name, a value that can't be, or a name twice.
    """
    text = decode(data, MOST_BYTES, "flies", "Split it.")
    found = rows(text, MOST_FLIES, "flies", "Two are needed at least: name and hook_size.", "Split it.")
    header = [cell.strip().lower() for cell in found[0][1]]
    if "name" not in header or "hook_size" not in header:
        raise BadFile("The header must name at least: name,hook_size", line=1, field="flies")
    flies: list[BoxFly] = []
    for line, cells in found[1:]:
        row = {column: cell.strip() for column, cell in zip(header, cells, strict=False)}
        if not row.get("name"):
            raise BadFile(f"Line {line}: a fly needs a name.", line=line, field="flies")
        if any(one.name == row["name"] for one in flies):
            raise BadFile(f"Line {line}: {row['name']!r} stands twice.", line=line, field="flies")
        try:
            flies.append(_fly(row, line))
        except StillthreadError as error:
            raise BadFile(
                f"Line {line}: {error.message}".replace(f"Line {line}: Line {line}", f"Line {line}"), line=line
            ) from None
    if not flies:
        raise BadFile("The file has a header but no flies.", line=1, field="flies")
    return tuple(flies)


def _fly(row: dict[str, str], line: int) -> BoxFly:
    def value(name: str, usual: float) -> float:
        cell = row.get(name, "")
        found = number(cell) if cell else usual
        if found is None:
            raise BadFile(f"{cell!r} in {name} is not a number.", line=line, field="flies")
        return found

    fly = Fly(
        row["name"][:80], int(value("hook_size", 0)), row.get("dressing") or "medium", row.get("wire") or "standard",
        row.get("bead") or "none", value("bead_mm", 0.0), value("foam_mm3", 0.0), value("extra_g", 0.0),
    )  # fmt: skip
    style = row.get("style") or "natural"
    return BoxFly(fly, tuple(row.get("foods", "").split()), style, row.get("colour", "")[:30], int(value("left", 2)))  # type: ignore[arg-type]
