"""The log of a weather station as CSV: a column of time, and whatever of the weather it measured, with its units."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, tzinfo

from stillthread.errors import BadFile
from stillthread.formats.columns import decode, number, rows
from stillthread.formats.weather_json import WEATHER_LIMITS
from stillthread.lake.weather import MOST_HOURS, Weather, weather_of

WEATHER_CSV_MOST_BYTES = 20_000_000  # ours: a bound
MOST_ROWS = 200_000  # ours: a bound, a reading each five minutes for two years
EARLIEST = 1950  # ours
MOST_NOTES = 20  # ours

_TIME = re.compile(r"time|date|zeit|tid\b|hora|fecha|stamp", re.IGNORECASE)
_KINDS = (
    ("inflow_c", re.compile(r"(inflow|stream|river).*(temp|[_\s(]°?[cf]\b)", re.IGNORECASE)),
    ("inflow_m3s", re.compile(r"inflow|stream|river", re.IGNORECASE)),
    ("outlet_m", re.compile(r"outlet|offtake", re.IGNORECASE)),
    ("drawn_down_m", re.compile(r"drawn.?down|draw.?down|below.?full", re.IGNORECASE)),
    ("air_c", re.compile(r"air|temp|luft|aire", re.IGNORECASE)),
    ("humidity", re.compile(r"humid|^rh|feucht|fukt|humedad", re.IGNORECASE)),
    ("wind_mps", re.compile(r"wind|vind|viento", re.IGNORECASE)),
    ("cloud", re.compile(r"cloud|wolk|sky|nube", re.IGNORECASE)),
    ("long_wm2", re.compile(r"long.?wave", re.IGNORECASE)),
    ("short_wm2", re.compile(r"solar|short.?wave|radiation|strahl|sun", re.IGNORECASE)),
    ("pressure_hpa", re.compile(r"press|druck|trykk|baro", re.IGNORECASE)),
)
_DIRECTION = re.compile(r"dir|from|deg\b|gust|richt|retning", re.IGNORECASE)
_UNIT = re.compile(r"[\s_(\[/]+(?P<unit>[a-z%°][a-z0-9%/°]*)[)\]]?\s*$", re.IGNORECASE)

Turn = Callable[[float], float]
# Into SI, by definition of each unit.
_UNITS: dict[str, dict[str, Turn]] = {
    "air_c": {"c": lambda v: v, "°c": lambda v: v, "celsius": lambda v: v, "f": lambda v: (v - 32.0) / 1.8,
              "°f": lambda v: (v - 32.0) / 1.8, "k": lambda v: v - 273.15},
    "humidity": {"%": lambda v: v / 100.0, "pct": lambda v: v / 100.0, "percent": lambda v: v / 100.0, "1": lambda v: v},
    "wind_mps": {"mps": lambda v: v, "m/s": lambda v: v, "ms": lambda v: v, "kmh": lambda v: v / 3.6, "km/h": lambda v: v / 3.6,
                 "kph": lambda v: v / 3.6, "mph": lambda v: v * 0.44704, "kn": lambda v: v * 0.514444,
                 "kt": lambda v: v * 0.514444, "knots": lambda v: v * 0.514444},
    "cloud": {"%": lambda v: v / 100.0, "pct": lambda v: v / 100.0, "octas": lambda v: v / 8.0, "oktas": lambda v: v / 8.0,
              "1": lambda v: v},
    "short_wm2": {"wm2": lambda v: v, "w/m2": lambda v: v},
    "long_wm2": {"wm2": lambda v: v, "w/m2": lambda v: v},
    "pressure_hpa": {"hpa": lambda v: v, "mbar": lambda v: v, "mb": lambda v: v, "kpa": lambda v: 10.0 * v,
                     "pa": lambda v: v / 100.0, "inhg": lambda v: v * 33.8639},
    "inflow_c": {"c": lambda v: v, "°c": lambda v: v, "f": lambda v: (v - 32.0) / 1.8, "°f": lambda v: (v - 32.0) / 1.8},
    "inflow_m3s": {"m3s": lambda v: v, "m3/s": lambda v: v, "ls": lambda v: v / 1000.0, "l/s": lambda v: v / 1000.0,
                   "cfs": lambda v: v * 0.3048**3, "mld": lambda v: v * 1000.0 / 86400.0},
    "outlet_m": {"m": lambda v: v, "ft": lambda v: v * 0.3048},
    "drawn_down_m": {"m": lambda v: v, "cm": lambda v: v / 100.0, "ft": lambda v: v * 0.3048},
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class WeatherFile:
    """The weather a file held, and what was left out of it, in words."""

    weather: Weather
    notes: tuple[str, ...]


def read_weather_csv(data: bytes, zone: tzinfo, latest: datetime) -> WeatherFile:
    """Return the weather of a station's log, by the hour: the mean of what it measured in each.

    Each column says its unit at the end of its name, such as `air_c`, `wind (km/h)` or `humidity_pct`. A time without a zone is
    taken to be of `zone`; none after `latest` was measured. A row that can't be is left out and told; a time that comes twice
    counts once.

    Raises
    ------
    BadFile
        Empty, too large, not text, no column of time or of weather, a unit that is missing or unknown, or no row that can be.
    """
    text = decode(data, WEATHER_CSV_MOST_BYTES, "weather", "Split it by years.")
    found = rows(text, MOST_ROWS, "weather", "A time and a value are needed.", "Split it by years.")
    header = [cell.strip() for cell in found[0][1]]
    time_at = next((i for i, cell in enumerate(header) if _TIME.search(cell)), None)
    if time_at is None:
        raise BadFile("There is no column of time. Name it time, as in: time,air_c,wind_mps", line=1, field="weather")
    columns = _columns(header, time_at)
    notes: list[str] = []
    sums: dict[datetime, dict[str, list[float]]] = {}
    seen: set[datetime] = set()
    left_out = 0
    for line, cells in found[1:]:
        at = _time(cells[time_at] if time_at < len(cells) else "", zone)
        why = (
            "has no time that can be read"
            if at is None
            else "lies ahead"
            if at > latest
            else "comes twice"
            if at in seen
            else ""
        )
        values: dict[str, float] = {}
        for name, (i, turn) in columns.items():
            raw = number(cells[i]) if i < len(cells) else None
            if raw is None:
                continue
            value = turn(raw)
            if not WEATHER_LIMITS[name].holds(value):
                why = why or f"has {header[i]} = {raw:g}, which can't be"
            values[name] = value
        if why or at is None:
            left_out += 1
            if len(notes) < MOST_NOTES:
                notes.append(f"Line {line} {why}: left out.")
            continue
        seen.add(at)
        hour = sums.setdefault(at.replace(minute=0, second=0, microsecond=0), {})
        for name, value in values.items():
            hour.setdefault(name, []).append(value)
    if not sums:
        raise BadFile("No row of the file can be used. " + " ".join(notes[:2]), field="weather")
    first, last = min(sums), max(sums)
    if (last - first).total_seconds() / 3600.0 >= MOST_HOURS:
        raise BadFile(f"The file reaches over more than {MOST_HOURS // 24} days. Split it by years.", field="weather")
    if left_out > len(notes):
        notes.append(f"And {left_out - len(notes)} more.")
    hourly: list[tuple[datetime, dict[str, float | None]]] = [
        (at, {name: sum(values) / len(values) for name, values in hour.items()}) for at, hour in sums.items()
    ]
    return WeatherFile(weather_of(hourly), tuple(notes))


def _columns(header: list[str], time_at: int) -> dict[str, tuple[int, Turn]]:
    columns: dict[str, tuple[int, Turn]] = {}
    for i, cell in enumerate(header):
        name = next((name for name, words in _KINDS if words.search(cell)), None)
        if i == time_at or name is None or name in columns or (name == "wind_mps" and _DIRECTION.search(cell)):
            continue
        unit = _UNIT.search(cell)
        turn = _UNITS[name].get(unit["unit"].lower()) if unit else None
        if turn is None:
            known = ", ".join(_UNITS[name])
            raise BadFile(
                f"The column {cell[:40]!r} does not say its unit. Write it at the end: {known}.", line=1, field="weather"
            )
        columns[name] = (i, turn)
    if not columns:
        wanted = "air_c, humidity_pct, wind_mps, cloud_pct, short_wm2, pressure_hpa, inflow_m3s, inflow_c, drawn_down_m"
        raise BadFile(f"There is no column of weather. Known are: {wanted}.", line=1, field="weather")
    return columns


def _time(cell: str, zone: tzinfo) -> datetime | None:
    try:
        at = datetime.fromisoformat(cell.strip().replace("Z", "+00:00"))
        at = at if at.tzinfo else at.replace(tzinfo=zone)
        return at if EARLIEST <= at.year <= 2200 else None
    except (ValueError, OverflowError):
        return None
