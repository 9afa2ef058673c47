"""The box as CSV, in and out, for a spreadsheet or another program: a row a fly, a row a line, a row a section of leader."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import TypeVar

from stillthread.errors import BadFile, StillthreadError
from stillthread.formats.columns import as_it_was, decode, defused, number, rows
from stillthread.tackle.flies import Fly
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.leaders import Hardware, Leader, LeaderSection
from stillthread.tackle.lines import LINE_CLASSES, Line, Stretch

BOX_CSV_MOST_BYTES = 1_000_000  # ours: a bound
MOST_ROWS = 400  # ours: a bound
FLY_COLUMNS = (
    "name", "foods", "style", "colour", "hook_size", "dressing", "wire", "bead", "bead_mm", "foam_mm3", "extra_g", "left",
)  # fmt: skip
LINE_COLUMNS = ("name", "class_key", "number", "sink_rate_mps", "calibrated", "tip_m", "stretches", "looped")
LEADER_COLUMNS = ("leader", "part", "length_m", "diameter_mm", "material", "greased", "above_point_m")
SECTION = "section"

YES = frozenset({"yes", "true", "1"})

Row = dict[str, str]
Item = TypeVar("Item")


@dataclass(frozen=True, slots=True)
class BoxLine:
    """A line, and whether its rate was counted down instead of read off a label."""

    line: Line
    calibrated: bool = False


def write_flies_csv(flies: Sequence[BoxFly]) -> bytes:
    """Return flies as CSV that `read_flies_csv` reads again; several foods are joined by a space."""
    return _write(
        FLY_COLUMNS,
        (
            [one.name, " ".join(one.foods), one.style, one.colour, fly.hook_size, fly.dressing, fly.wire, fly.bead,
             f"{fly.bead_mm:g}", f"{fly.foam_mm3:g}", f"{fly.extra_g:g}", one.left]
            for one in flies
            for fly in (one.fly,)
        ),
    )  # fmt: skip


def read_flies_csv(data: bytes) -> tuple[BoxFly, ...]:
    """Return the flies of a CSV with a header; columns in any order, all but `name` and `hook_size` may be missing.

    Raises
    ------
    BadFile
        With the line at fault: no header, no name, a value that can't be, or a name twice.
    """
    return _named(_read(data, "flies", ("name", "hook_size")), "flies", "fly", _fly)


def write_lines_csv(lines: Sequence[BoxLine]) -> bytes:
    """Return lines as CSV that `read_lines_csv` reads again; stretches are `length_m@sink_rate_mps`, joined by a space."""
    cells = []
    for one in lines:
        line = one.line
        tip = "" if line.tip_m is None else repr(line.tip_m)
        stretches, looped = " ".join(map(_stretch, line.stretches)), _stretch(line.looped) if line.looped else ""
        calibrated = "yes" if one.calibrated else ""
        cells.append([line.name, line.class_key, line.number, repr(line.sink_rate_mps), calibrated, tip, stretches, looped])
    return _write(LINE_COLUMNS, cells)


def read_lines_csv(data: bytes) -> tuple[BoxLine, ...]:
    """Return the lines of a CSV with a header; `name` and `class_key` are needed, the rate is the class's unless given.

    Raises
    ------
    BadFile
        With the line at fault.
    """
    return _named(_read(data, "lines", ("name", "class_key")), "lines", "line", _line)


def write_leaders_csv(leaders: Sequence[Leader]) -> bytes:
    """Return leaders as CSV that `read_leaders_csv` reads again: a row a section, from the line down, then its hardware."""
    cells: list[list[object]] = []
    for leader in leaders:
        for cut in leader.sections:
            greased = "yes" if cut.greased else ""
            cells.append(
                [leader.name, SECTION, repr(cut.length_m), f"{1000.0 * cut.diameter_m:.6g}", cut.material, greased, ""]
            )
        cells.extend([leader.name, piece.kind, "", "", "", "", repr(piece.above_point_m)] for piece in leader.hardware)
    return _write(LEADER_COLUMNS, cells)


def read_leaders_csv(data: bytes) -> tuple[Leader, ...]:
    """Return the leaders of a CSV with a header: rows of one `leader` are its parts, sections from the line down.

    `part` is "section", the usual one, or the kind of a swivel, ring or shot.

    Raises
    ------
    BadFile
        With the line at fault.
    """
    parts: dict[str, list[tuple[int, Row]]] = {}
    for line, row in _read(data, "leaders", ("leader", "length_m", "diameter_mm")):
        if not row.get("leader"):
            raise BadFile(f"Line {line}: a part needs the name of its leader.", line=line, field="leaders")
        parts.setdefault(row["leader"][:80], []).append((line, row))
    return tuple(_at(rows[0][0], "leaders", _leader, name, rows) for name, rows in parts.items())


def _write(columns: Sequence[str], cells: Iterable[Sequence[object]]) -> bytes:
    text = io.StringIO()
    out = csv.writer(text, lineterminator="\n")
    out.writerow(columns)
    out.writerows([defused(cell) for cell in row] for row in cells)
    return text.getvalue().encode()


def _read(data: bytes, what: str, needed: tuple[str, ...]) -> list[tuple[int, Row]]:
    """Return (1-based line number, cells by column) for every row below the header."""
    text = decode(data, BOX_CSV_MOST_BYTES, what, "Split it.")
    found = rows(text, MOST_ROWS, what, f"These are needed at least: {' and '.join(needed)}.", "Split it.")
    header = [cell.strip().lower() for cell in found[0][1]]
    if not set(needed) <= set(header):
        raise BadFile(f"The header must name at least: {','.join(needed)}", line=1, field=what)
    told = [(line, {c: as_it_was(cell.strip()) for c, cell in zip(header, cells, strict=False)}) for line, cells in found[1:]]
    if not told:
        raise BadFile(f"The file has a header but no {what}.", line=1, field=what)
    return told


def _named(told: list[tuple[int, Row]], what: str, one: str, make: Callable[[Row, int], Item]) -> tuple[Item, ...]:
    """Return what each row makes; every name stands once."""
    made: dict[str, Item] = {}
    for line, row in told:
        name = row.get("name", "")
        if not name:
            raise BadFile(f"Line {line}: a {one} needs a name.", line=line, field=what)
        if name in made:
            raise BadFile(f"Line {line}: {name!r} stands twice.", line=line, field=what)
        made[name] = _at(line, what, make, row, line)
    return tuple(made.values())


def _at(line: int, what: str, make: Callable[..., Item], *given: object) -> Item:
    """Return what `make` makes, or raise its refusal as the file's, with the line."""
    try:
        return make(*given)
    except BadFile:
        raise
    except StillthreadError as error:
        raise BadFile(f"Line {line}: {error.message}", line=line, field=what) from None


def _number(row: Row, column: str, line: int, usual: float | None = None) -> float:
    cell = row.get(column, "")
    found = number(cell) if cell else usual
    if found is None:
        said = f"{cell!r} in {column} is not a number." if cell else f"{column} is missing."
        raise BadFile(f"Line {line}: {said}", line=line, field=column)
    return found


def _fly(row: Row, line: int) -> BoxFly:
    fly = Fly(
        name=row["name"][:80],
        hook_size=int(_number(row, "hook_size", line)),
        dressing=row.get("dressing") or "medium",
        wire=row.get("wire") or "standard",
        bead=row.get("bead") or "none",
        bead_mm=_number(row, "bead_mm", line, 0.0),
        foam_mm3=_number(row, "foam_mm3", line, 0.0),
        extra_g=_number(row, "extra_g", line, 0.0),
    )
    style, left = row.get("style") or "natural", int(_number(row, "left", line, 2.0))
    return BoxFly(fly, tuple(row.get("foods", "").split()), style, row.get("colour", "")[:30], left)  # type: ignore[arg-type]


def _stretch(one: Stretch) -> str:
    return f"{one.length_m!r}@{one.sink_rate_mps!r}"


def _stretches(row: Row, column: str, line: int) -> tuple[Stretch, ...]:
    found = []
    for cell in row.get(column, "").split():
        length, _, rate = cell.partition("@")
        pair = {"length": length, "rate": rate}
        if number(length) is None or number(rate) is None:
            text = f"Line {line}: {cell!r} in {column} is not a length and a rate, such as 3.0@0.1."
            raise BadFile(text, line=line, field="lines")
        found.append(Stretch(_number(pair, "length", line), _number(pair, "rate", line)))
    return tuple(found)


def _line(row: Row, line: int) -> BoxLine:
    key = row.get("class_key", "")
    usual = LINE_CLASSES[key].label_sink_rate_mps if key in LINE_CLASSES else 0.0
    stretches, looped = _stretches(row, "stretches", line), _stretches(row, "looped", line)
    if key == "own" and stretches:
        usual = max(one.sink_rate_mps for one in stretches)
    made = Line(
        row["name"][:80], key, int(_number(row, "number", line, 6.0)), _number(row, "sink_rate_mps", line, usual),
        tip_m=_number(row, "tip_m", line) if row.get("tip_m") else None,
        stretches=stretches, looped=looped[0] if looped else None,
    )  # fmt: skip
    return BoxLine(made, row.get("calibrated", "").lower() in YES)


def _leader(name: str, parts: list[tuple[int, Row]]) -> Leader:
    sections, hardware = [], []
    for line, row in parts:
        part = row.get("part") or SECTION
        if part == SECTION:
            diameter_m = round(_number(row, "diameter_mm", line) / 1000.0, 9)
            greased = row.get("greased", "").lower() in YES
            cut = (_number(row, "length_m", line), diameter_m, row.get("material") or "fluorocarbon", greased)
            sections.append(_at(line, "leaders", LeaderSection, *cut))
        else:
            hardware.append(_at(line, "leaders", Hardware, part, _number(row, "above_point_m", line)))
    return Leader(name, tuple(sections), tuple(hardware))
