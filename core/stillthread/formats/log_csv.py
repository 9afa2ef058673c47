"""Logs as CSV: tables out for a spreadsheet, and the plain logs of other programs and notebooks in, by a mapping of columns."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time
from types import MappingProxyType

from dateutil import parser as dates

from stillthread.errors import BadFile
from stillthread.formats.columns import as_it_was, decode, defused, number, rows
from stillthread.ranges import DEPTH_M, FISH_LENGTH_M, FISH_WEIGHT_KG, WATER_C, WIND_MPS, Range

MOST_BYTES = 2_000_000  # ours: a bound
MOST_ROWS = 20_000  # ours: a bound
MOST_FISH = 500  # ours: a bound
MOST_COLUMNS, MOST_DAYS = 500, 5_000  # ours: bounds; no notebook is as wide, and nobody fished more in a lifetime
EARLIEST = 1900  # ours: a year before is a slip of the pen


@dataclass(frozen=True, slots=True)
class Asked:
    """A column that a log may have: words that its header is known by, and units with what makes SI of them."""

    words: tuple[str, ...]
    units: Mapping[str, float] = field(default_factory=dict)
    valid: Range | None = None


FAHRENHEIT = "F"
ASKED: Mapping[str, Asked] = MappingProxyType(
    {
        "date": Asked(("date", "day", "when", "datum", "fecha")),
        "time": Asked(("time", "hour", "clock", "uhrzeit", "hora")),
        "water": Asked(("water body", "water", "lake", "venue", "reservoir", "location", "place", "fishery", "see", "lago")),
        "species": Asked(("species", "fish", "kind", "art", "especie")),
        "count": Asked(("count", "number", "caught", "catch", "landed", "total", "qty", "anzahl")),
        "length": Asked(("length", "size", "long", "länge", "largo"), {"cm": 0.01, "in": 0.0254, "mm": 0.001, "m": 1.0},
                        FISH_LENGTH_M),
        "weight": Asked(("weight", "mass", "gewicht", "peso"), {"kg": 1.0, "g": 0.001, "lb": 0.45359237, "oz": 0.028349523125},
                        FISH_WEIGHT_KG),
        "depth": Asked(("depth", "deep", "tiefe"), {"m": 1.0, "ft": 0.3048}, DEPTH_M),
        "water_c": Asked(("water temp", "temperature", "temp", "surface"), {"C": 1.0, FAHRENHEIT: 5.0 / 9.0}, WATER_C),
        "wind": Asked(("wind",), {"m/s": 1.0, "km/h": 1.0 / 3.6, "mph": 0.44704, "kn": 1852.0 / 3600.0}, WIND_MPS),
        "kept": Asked(("kept", "keep", "killed", "taken")),
        "fly": Asked(("fly", "flies", "pattern", "lure", "bait", "fliege", "mosca")),
        "method": Asked(("method", "technique", "line", "tactic", "rig")),
        "notes": Asked(("notes", "note", "comment", "remarks", "bemerkung")),
    }
)  # fmt: skip
"""Words: common practice of notebooks and spreadsheets, no published source. Pound, ounce, inch and knot: by definition."""
_UNIT_WORDS = MappingProxyType({
    "inch": "in", "inches": "in", '"': "in", "feet": "ft", "foot": "ft", "lbs": "lb", "pounds": "lb", "ounces": "oz",
    "kmh": "km/h", "kph": "km/h", "knots": "kn", "kt": "kn", "kts": "kn", "ms": "m/s", "°c": "C", "c": "C",
    "°f": FAHRENHEIT, "f": FAHRENHEIT,
    "celsius": "C", "fahrenheit": FAHRENHEIT,
})  # fmt: skip
YES, NO = (
    frozenset({"yes", "y", "true", "1", "x", "kept", "ja", "si", "sí"}),
    frozenset({"no", "n", "false", "0", "released", "nein"}),
)
OF_A_FISH = ("count", "species", "length", "weight")


@dataclass(frozen=True, slots=True)
class LogColumn:
    """A column of another's log: its header, what it is taken to be, in which unit, and what stands in it first."""

    header: str
    guess: str | None
    unit: str | None
    samples: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class LogTable:
    """Another's log as it came: its columns, how many rows, and whether its dates begin with the day."""

    columns: tuple[LogColumn, ...]
    count: int
    day_first: bool


@dataclass(frozen=True, slots=True)
class OtherRow:
    """One row of another's log in SI units: a day there, and `count` fish of it, 0 for a day without."""

    line: int
    on: date
    at: time | None
    water: str
    count: int
    species: str = ""
    length_m: float | None = None
    weight_kg: float | None = None
    depth_m: float | None = None
    water_c: float | None = None
    wind_mps: float | None = None
    kept: bool | None = None
    fly: str = ""
    method: str = ""
    notes: str = ""


class _NoRow(Exception):
    """Why a row can't be taken."""


def write_table(columns: Sequence[str], cells: Iterable[Sequence[object]]) -> bytes:
    """Return rows as CSV (RFC 4180, UTF-8); text that a spreadsheet would run is defused, and None is an empty cell."""
    text = io.StringIO()
    out = csv.writer(text, lineterminator="\r\n")
    out.writerow(columns)
    out.writerows([defused(cell) for cell in row] for row in cells)
    return text.getvalue().encode()


def look_at_log(data: bytes) -> LogTable:
    """Return the columns of another's log, each with what it probably is.

    Raises
    ------
    BadFile
        Too large, not UTF-8, without rows, or not a table.
    """
    found = _table(data)
    header = [cell.strip() for cell in found[0][1]]
    body = found[1:]
    columns: list[LogColumn] = []
    taken: set[str] = set()
    for i, name in enumerate(header):
        guess = _guess(name, taken)
        if guess:
            taken.add(guess)
        samples = [cells[i].strip() for _, cells in body if i < len(cells) and cells[i].strip()]
        columns.append(LogColumn(name or f"column {i + 1}", guess, _unit(name, guess), tuple(dict.fromkeys(samples))[:3]))
    at = next((i for i, column in enumerate(columns) if column.guess == "date"), None)
    said = [] if at is None else [cells[at] for _, cells in body if at < len(cells)]
    return LogTable(tuple(columns), len(body), _day_first(said))


def read_other_log(
    data: bytes, mapping: Mapping[str, int], units: Mapping[str, str] = MappingProxyType({}), *, day_first: bool = True
) -> tuple[list[OtherRow], list[tuple[int, str]]]:
    """Return the rows of another's log, and of those that can't be taken the 1-based line and why.

    Parameters
    ----------
    mapping : mapping of str to int
        What of `ASKED` stands in which column, from 0; `date` at least.
    units : mapping of str to str
        The unit of each column that has one; the first of its units unless given.
    day_first : bool
        Whether 3/4 is the third of April.

    Raises
    ------
    BadFile
        As `look_at_log`; no date among the columns, a column that is not there, or one taken for two things.
    """
    found = _table(data)
    wide = len(found[0][1])
    if "date" not in mapping:
        raise BadFile("Say which column holds the date.", field="mapping")
    if set(mapping) - set(ASKED) or any(not 0 <= i < wide for i in mapping.values()):
        raise BadFile("The mapping names what the file or the log does not have.", field="mapping")
    if len(set(mapping.values())) < len(mapping):
        raise BadFile("One column is taken for two things.", field="mapping")
    for key, unit in units.items():
        if unit not in ASKED.get(key, Asked(())).units:
            raise BadFile(f"{unit[:20]!r} is no unit of {key[:20]}.", field="units")
    good: list[OtherRow] = []
    bad: list[tuple[int, str]] = []
    for line, cells in found[1:]:
        try:
            good.append(_row(line, cells, mapping, units, day_first))
        except _NoRow as why:
            bad.append((line, str(why)))
    days = len({(row.on, row.water.casefold()) for row in good})
    if days > MOST_DAYS:
        raise BadFile(f"The file has {days} days. The most is {MOST_DAYS}: split it by years.", field="file")
    return good, bad


def _table(data: bytes) -> list[tuple[int, list[str]]]:
    text = decode(data, MOST_BYTES, "file", "Split it by years.")
    found = rows(text, MOST_ROWS, "file", "A log has a date at least, and something beside it.", "Split it by years.")
    if len(found) < 2:
        raise BadFile("The file has a header and no rows.", field="file")
    wide = max(len(cells) for _, cells in found)
    if wide > MOST_COLUMNS:
        raise BadFile(f"The file has {wide} columns. The most is {MOST_COLUMNS}.", field="file")
    return found


def _guess(header: str, taken: set[str]) -> str | None:
    """Return what a header most probably names: by the longest of the words that are in it."""
    said = f" {re.sub(r'[^a-zà-ÿ]+', ' ', header.lower()).strip()} "
    best, longest = None, 0
    for key, asked in ASKED.items():
        for word in asked.words:
            if key not in taken and f" {word} " in said and len(word) > longest:
                best, longest = key, len(word)
    return best


def _unit(header: str, guess: str | None) -> str | None:
    if guess is None or not ASKED[guess].units:
        return None
    known = ASKED[guess].units
    for part in re.split(r"[\s()\[\]_,]+", header.lower()):
        unit = _UNIT_WORDS.get(part, part)
        if unit in known:
            return unit
    return next(iter(known))


def _day_first(said: Sequence[str]) -> bool:
    """Return whether dates begin with the day: so unless one of them can only begin with the month."""
    for text in said:
        parts = re.fullmatch(r"\s*(\d{1,2})[./-](\d{1,2})[./-]\d{2,4}.*", text)
        if parts and int(parts[1]) > 12:
            return True
        if parts and int(parts[2]) > 12:
            return False
    return True


def _row(line: int, cells: Sequence[str], mapping: Mapping[str, int], units: Mapping[str, str], day_first: bool) -> OtherRow:
    said = {key: as_it_was(cells[i].strip()) if i < len(cells) else "" for key, i in mapping.items()}
    on, at = _when(said.get("date", ""), said.get("time", ""), day_first)
    values = {key: _value(key, said.get(key, ""), units.get(key)) for key in ("length", "weight", "depth", "water_c", "wind")}
    return OtherRow(
        line, on, at, said.get("water", "")[:80], _count(said),
        species=said.get("species", "")[:40], length_m=values["length"], weight_kg=values["weight"], depth_m=values["depth"],
        water_c=values["water_c"], wind_mps=values["wind"], kept=_kept(said.get("kept", "")), fly=said.get("fly", "")[:80],
        method=said.get("method", "")[:80], notes=said.get("notes", "")[:2000],
    )  # fmt: skip


def _when(day: str, clock: str, day_first: bool) -> tuple[date, time | None]:
    if len(re.findall(r"\d+|[A-Za-zà-ÿ]{3,}", day)) < 3:
        raise _NoRow(f"{day[:40]!r} is no date." if day else "It has no date.")
    iso = re.match(r"\s*\d{4}", day) is not None
    try:
        # A default without a clock time tells whether the text had one.
        found = dates.parse(day[:60], dayfirst=day_first and not iso, default=datetime(1, 1, 1))
        at = found.time() if re.search(r"\d:\d", day) else None
        if clock:
            at = dates.parse(clock[:30], default=datetime(1, 1, 1)).time() if re.search(r"\d", clock) else None
    except (ValueError, OverflowError, TypeError):
        raise _NoRow(f"{(day + ' ' + clock)[:60].strip()!r} is no date and time.") from None
    if not EARLIEST <= found.year <= 9000:
        raise _NoRow(f"{day[:40]!r} lies in no year of anybody's fishing.")
    return found.date(), at


def _value(key: str, said: str, unit: str | None) -> float | None:
    """Return the SI value in a cell; its own unit, where it names one, counts before the column's."""
    if not said or said in {"-", "–", "?", "n/a", "na"}:
        return None
    asked = ASKED[key]
    parts = re.fullmatch(r"([-+]?\d+(?:[.,]\d+)?)\s*([^\d\s]\S*)?", said)
    if parts is None:
        raise _NoRow(f"{said[:40]!r} is no {key}.")
    own = (parts[2] or "").lower().rstrip(".")
    named = _UNIT_WORDS.get(own, own)
    if own and named not in asked.units:
        raise _NoRow(f"{parts[2][:20]!r} is no unit of {key}.")
    chosen = named or unit or next(iter(asked.units))
    value = number(parts[1])
    assert value is not None
    si = (value - 32.0) * asked.units[FAHRENHEIT] if chosen == FAHRENHEIT else value * asked.units[chosen]
    if asked.valid is not None and not asked.valid.low <= si <= asked.valid.high:
        raise _NoRow(f"{said[:40]!r} {chosen if not own else ''} can't be a {key.removesuffix('_c')} here.".replace("  ", " "))
    return round(si, 4)


def _count(said: Mapping[str, str]) -> int:
    """Return how many fish a row tells of: as counted, else one where it says anything of a fish."""
    if said.get("count"):
        found = number(said["count"])
        if found is None or found != int(found) or not 0 <= found <= MOST_FISH:
            raise _NoRow(f"{said['count'][:40]!r} is no number of fish.")
        return int(found)
    told = [said[key] for key in OF_A_FISH if key in said]
    return 1 if not told or any(told) else 0


def _kept(said: str) -> bool | None:
    word = said.lower()
    return True if word in YES else False if word in NO else None
