"""Read a temperature-depth profile from CSV text, as loggers, spreadsheets and people write it."""

from __future__ import annotations

import re
from dataclasses import dataclass
from statistics import fmean
from typing import Literal, NamedTuple

from stillthread.errors import BadFile, OutOfRange
from stillthread.formats.columns import decode, number, rows
from stillthread.sourced import Sourced
from stillthread.water.oxygen import OxygenReading
from stillthread.water.profile import MOST_READINGS
from stillthread.water.reading import Reading

PROFILE_CSV_MOST_BYTES = 1_000_000  # ours: a bound
MOST_LOGGED = 20_000  # ours: a bound
ONE_CAST = "Send one cast of readings."
LOGGER_STEP_M = Sourced(0.25, "m", "ours", "finer than a thermocline, coarser than the swing of a boat")

DepthUnit = Literal["m", "ft"]
TemperatureUnit = Literal["C", "F"]

_METRES = {"m": 1.0, "ft": 0.3048}  # by definition
_DEPTH_WORDS = re.compile(r"depth|tiefe|dyp|djup|prof", re.IGNORECASE)
_OXYGEN_WORDS = re.compile(r"oxy|^do\b|^do_|^o2|sauerstoff|oksygen|syre|ox[ií]geno", re.IGNORECASE)
_TIME_WORDS = re.compile(r"time|date|zeit|tid\b|hora|stamp", re.IGNORECASE)
_TEMPERATURE_WORDS = re.compile(r"temp|water|wasser|vann|vatten|agua", re.IGNORECASE)
# The unit is read from the end of the header cell: "depth_ft", "Depth (m)", "temp [F]", "water °C".
_UNIT = re.compile(r"(?:^|[\s_(\[/°º-])(ft|feet|foot|m|metres?|meters?|c|celsius|f|fahrenheit)[)\]]?\s*$", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class ProfileFile:
    """What a file held: temperatures, oxygen if it had a column for it, and what was left out, in words."""

    readings: tuple[Reading, ...]
    oxygen: tuple[OxygenReading, ...]
    notes: tuple[str, ...]


def read_profile_csv(
    data: bytes, *, depth_unit: DepthUnit | None = None, temperature_unit: TemperatureUnit | None = None
) -> ProfileFile:
    """Return the readings of a CSV with a header line that names a depth and a temperature column.

    Column order is free, an oxygen column is read too, further columns are ignored; separators may be comma, semicolon or
    tab, and decimals may be commas where the separator is not. A unit in the header wins unless a unit is given here.
    With a time column the file is a lowered logger's record: of its ups and downs the way down to the deepest point is
    taken, averaged over steps of `LOGGER_STEP_M`.

    Parameters
    ----------
    data : bytes
        The file, UTF-8 (with or without a byte-order mark), at most 1 MB; 2 000 rows, 20 000 with a time column.
    depth_unit, temperature_unit : optional
        The choice made by hand; without it and without one in the header, metres and Celsius.

    Returns
    -------
    ProfileFile
        In SI units, depths rising.

    Raises
    ------
    BadFile
        Empty, too large, not text, one column, no header, text among numbers, depth going up without a time column, or a
        value out of range; the message gives the line.
    """
    text = decode(data, PROFILE_CSV_MOST_BYTES, "profile", ONE_CAST)
    found_rows = rows(text, MOST_LOGGED, "profile", "Two are needed: depth and temperature.", ONE_CAST)
    header = found_rows[0][1]
    if all(number(cell) is not None for cell in header):
        raise BadFile("The first line must be a header such as: depth_m,water_c", line=1, field="profile")
    depth_at, temperature_at = _columns(header)
    oxygen_at = next((i for i, cell in enumerate(header) if _OXYGEN_WORDS.search(cell)), None)
    logged = any(_TIME_WORDS.search(cell) for i, cell in enumerate(header) if i not in {depth_at, temperature_at})
    if len(found_rows) > MOST_READINGS + 1 and not logged:
        raise BadFile(f"The file has more than {MOST_READINGS} rows. {ONE_CAST}", field="profile")
    to_metres = _METRES[depth_unit or _header_depth_unit(header[depth_at])]
    fahrenheit = (temperature_unit or _header_temperature_unit(header[temperature_at])) == "F"
    found: list[_Row] = []
    for line, cells in found_rows[1:]:
        if len(cells) <= max(depth_at, temperature_at):
            raise BadFile(f"Line {line} has {len(cells)} columns; a depth and a temperature are needed.", line=line)
        if len(cells) > len(header):
            raise BadFile(
                f"Line {line} has {len(cells)} columns, the header {len(header)}. With decimal commas, separate by semicolons.",
                line=line,
                field="profile",
            )
        depth = _value(cells[depth_at], "depth", line) * to_metres
        temperature = _value(cells[temperature_at], "temperature", line)
        water_c = (temperature - 32.0) / 1.8 if fahrenheit else temperature
        cell = cells[oxygen_at].strip() if oxygen_at is not None and oxygen_at < len(cells) else ""
        oxygen = _value(cell, "oxygen", line) if cell else None
        # A logger in the air above the water reads a little less than zero.
        depth = max(depth, 0.0) if logged and depth > -0.5 else depth
        try:
            row = _Row(line, Reading(depth, water_c), None if oxygen is None else OxygenReading(depth, oxygen))
        except OutOfRange as error:
            hint = " Is it in Fahrenheit?" if error.field == "water_c" and not fahrenheit and water_c > 40 else ""
            hint = " Send oxygen in mg/L, not per cent." if error.field == "oxygen_mgl" else hint
            raise BadFile(f"Line {line}: {error.message}{hint}", line=line, field="profile") from None
        if not logged and found and row.reading.depth_m <= found[-1].reading.depth_m:
            going = "repeats" if row.reading.depth_m == found[-1].reading.depth_m else "goes up"
            raise BadFile(
                f"Line {line}: depth {going} ({cells[depth_at].strip()}). List readings from the surface down.",
                line=line,
                field="profile",
            )
        found.append(row)
    if not found:
        raise BadFile("The file has a header but no readings.", line=1, field="profile")
    if logged:
        return _way_down(found)
    return ProfileFile(tuple(row.reading for row in found), tuple(row.oxygen for row in found if row.oxygen), ())


class _Row(NamedTuple):
    line: int
    reading: Reading
    oxygen: OxygenReading | None


def _way_down(logged: list[_Row]) -> ProfileFile:
    """Return the last way down to the deepest point, averaged over steps of depth."""
    deepest = max(range(len(logged)), key=lambda i: logged[i].reading.depth_m)
    start = deepest
    top_m = min(row.reading.depth_m for row in logged[: deepest + 1])
    while start > 0:
        here_m, before_m = logged[start].reading.depth_m, logged[start - 1].reading.depth_m
        if here_m <= top_m + float(LOGGER_STEP_M) and before_m >= here_m:
            break
        start -= 1
    down = logged[start : deepest + 1]
    steps: dict[int, list[_Row]] = {}
    for row in down:
        steps.setdefault(round(row.reading.depth_m / float(LOGGER_STEP_M)), []).append(row)
    readings, oxygen = [], []
    for _, step in sorted(steps.items()):
        depth_m = round(fmean(row.reading.depth_m for row in step), 2)
        readings.append(Reading(depth_m, round(fmean(row.reading.water_c for row in step), 3)))
        measured = [row.oxygen.oxygen_mgl for row in step if row.oxygen]
        if measured:
            oxygen.append(OxygenReading(depth_m, round(fmean(measured), 3)))
    note = (
        f"Of {len(logged)} rows the way down, lines {down[0].line} to {down[-1].line}, was taken as {len(readings)} readings."
    )
    return ProfileFile(tuple(readings), tuple(oxygen), (note,))


def _columns(header: list[str]) -> tuple[int, int]:
    """Return the positions of the depth and the temperature column."""
    depths = [i for i, cell in enumerate(header) if _DEPTH_WORDS.search(cell)]
    temperatures = [i for i, cell in enumerate(header) if _TEMPERATURE_WORDS.search(cell) and i not in depths]
    if depths and temperatures:
        return depths[0], temperatures[0]
    if len(header) == 2 and not temperatures and depths:
        return depths[0], 1 - depths[0]
    if len(header) == 2 and not depths and temperatures:
        return 1 - temperatures[0], temperatures[0]
    raise BadFile("The header must name a depth and a temperature column, such as: depth_m,water_c", line=1, field="profile")


def _header_depth_unit(cell: str) -> DepthUnit:
    found = _UNIT.search(cell.strip())
    return "ft" if found and found[1].lower().startswith("f") and found[1].lower() not in {"f", "fahrenheit"} else "m"


def _header_temperature_unit(cell: str) -> TemperatureUnit:
    found = _UNIT.search(cell.strip())
    return "F" if found and found[1].lower() in {"f", "fahrenheit"} else "C"


def _value(cell: str, what: str, line: int) -> float:
    value = number(cell)
    if value is None:
        raise BadFile(f"Line {line}: {cell.strip()!r} is not a {what}.", line=line, field="profile")
    return value
