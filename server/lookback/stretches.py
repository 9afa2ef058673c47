"""What was fished, as rows that can be summed: read once, grouped in any way."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, TypeAlias

import numpy as np
from django.db.models import CharField
from django.db.models.functions import Cast

from accounts.models import User
from days.finding import where_of
from days.models import Stretch
from days.schemas import DaysQuery
from days.tally import LAYERS
from stillthread.api import LOG_LAYER_M, Group, Phrase

Floats: TypeAlias = np.ndarray[Any, np.dtype[np.float64]]
Ints: TypeAlias = np.ndarray[Any, np.dtype[np.int64]]
SUMS = ("hours", "takes", "landed")
LAYER_GROUP = 2  # layers of the log that a chart shows as one
DEEPEST_SHOWN = 30


@dataclass(frozen=True, slots=True)
class Way:
    """One group of a chart: its key, what it is called, and between which values it lies where it is a range."""

    key: str
    name: Phrase
    low: float | None = None
    high: float | None = None


@dataclass(frozen=True, slots=True)
class Cut:
    """Bounds of a quantity and the unit they are said in; words for each part where numbers say little."""

    unit: str
    edges: tuple[float, ...]
    words: tuple[str, ...] = ()

    def way(self, value: float) -> Way:
        i = int(np.searchsorted(self.edges, value, side="right"))
        if self.words:
            return Way(str(i), Phrase(self.words[i]), float(i), None)
        low = self.edges[i - 1] if i else None
        high = self.edges[i] if i < len(self.edges) else None
        if low is None:
            assert high is not None
            return Way(str(i), Phrase(f"under {{high_{self.unit}}}", {f"high_{self.unit}": high}), None, high)
        if high is None:
            return Way(str(i), Phrase(f"over {{low_{self.unit}}}", {f"low_{self.unit}": low}), low, None)
        name = Phrase(f"{{low_{self.unit}}} to {{high_{self.unit}}}", {f"low_{self.unit}": low, f"high_{self.unit}": high})
        return Way(str(i), name, low, high)


# Ours: as far apart as anglers speak of them.
WARMTH = Cut("c", (6.0, 9.0, 12.0, 15.0, 18.0, 21.0))
WIND = Cut("wind_mps", (1.5, 3.5, 6.0, 9.0))
LIGHT = Cut("", (0.05, 0.2, 0.5), ("dusk and dawn", "dull", "light cloud", "bright"))
MONTHS = ("January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November",
          "December")  # fmt: skip


def _named(text: str) -> Way | None:
    return Way(text, Phrase(text)) if text else None


def _hour(hour: int) -> Way:
    return Way(f"{hour:02d}", Phrase(f"{hour:02d}:00 to {(hour + 1) % 24:02d}:00"), float(hour), float(hour + 1))


def _month(month: int) -> Way:
    return Way(f"{month:02d}", Phrase(MONTHS[month - 1]), float(month), None)


@dataclass(frozen=True, slots=True)
class Grouping:
    """By which column of the stretches, and which way each value of it belongs to; none for what is not known."""

    column: str
    way: Callable[[Any], Way | None]


BY = {
    "temperature": Grouping("surface_c", WARMTH.way),
    "light": Grouping("light", LIGHT.way),
    "wind": Grouping("wind_mps", WIND.way),
    "method": Grouping("way", _named),
    "line": Grouping("line", _named),
    "retrieve": Grouping("retrieve", _named),
    "spot": Grouping("spot", _named),
    "hour": Grouping("hour", _hour),
    "month": Grouping("month", _month),
}
LEVELS = {"depth": 0, "above_bottom": 3}
FLY = "fly"
ORDERED = ("depth", "above_bottom", "temperature", "light", "wind", "hour", "month")
"""Those that have an order of their own; the others are told by what they brought."""


@dataclass(frozen=True, slots=True)
class StretchRows:
    """The stretches of a query: which day each is of, 0 to `days`, hours, takes and landed, (n_row,); the columns that were
    asked for; and for those by depth their layers, (n_row, 6, `LAYERS`)."""

    day: Ints
    days: int
    sums: dict[str, Floats]
    columns: dict[str, tuple[Any, ...]]
    layers: np.ndarray[Any, Any] | None

    def total(self, name: str) -> float:
        return float(self.sums[name].sum())


def fished(owner: User, query: DaysQuery, groupings: Sequence[str]) -> StretchRows:
    """Return what was fished on the days that a query is about, as far as these groupings need it."""
    names = list(dict.fromkeys("by_fly" if by == FLY else BY[by].column for by in groupings if by == FLY or by in BY))
    layers = any(by in LEVELS for by in groupings)
    found = Stretch.objects.filter(where_of(query, "day__facts__"), owner=owner)
    # An id is told apart as text: made into one, eight thousand of them cost more than all that is summed.
    columns: list[Any] = [Cast("day_id", CharField()), *SUMS, *names, *(["layers"] if layers else [])]
    rows = list(zip(*found.values_list(*columns), strict=True)) or [() for _ in columns]
    ids, day = np.unique(np.array(rows[0], dtype=str), return_inverse=True)
    packed = None
    if layers:
        packed = np.frombuffer(b"".join(rows[-1]), np.float32).reshape(len(day), 6, LAYERS)
    sums = {name: np.array(row, dtype=np.float64) for name, row in zip(SUMS, rows[1:], strict=False)}
    kept = dict(zip(names, rows[1 + len(SUMS) :], strict=False))
    return StretchRows(day.ravel(), len(ids), sums, kept, packed)


def grouped(found: StretchRows, by: str, of: str) -> tuple[list[Way], list[Group]]:
    """Return the ways of a chart with their takes (or fish landed) and hours on each day."""
    if by in LEVELS:
        return _by_level(found, by, of)
    if by == FLY:
        return _by_fly(found, of)
    values, which = np.unique(np.array(found.columns[BY[by].column]), return_inverse=True)
    told = [BY[by].way(value) for value in values.tolist()]
    ways = {way.key: way for way in told if way is not None}
    keys = list(ways)
    place = {key: i for i, key in enumerate(keys)}
    row_of = np.array([-1 if way is None else place[way.key] for way in told], dtype=np.int64)[which.ravel()]
    known = row_of >= 0
    kept = _summed(ways, row_of[known], found.day[known], found.days, found.sums[of][known], found.sums["hours"][known])
    if by in ORDERED:
        kept.sort(key=lambda pair: int(pair[1].key))
    return [way for way, _ in kept], [group for _, group in kept]


def _summed(
    ways: dict[str, Way], row_of: Ints, day: Ints, days: int, took: Floats, hours_of: Floats
) -> list[tuple[Way, Group]]:
    """Return each way with its sums by day, of rows that each belong to one."""
    shape = (len(ways), days)
    cell = row_of * days + day
    takes, hours = (
        np.bincount(cell, weights=values, minlength=shape[0] * shape[1]).reshape(shape) for values in (took, hours_of)
    )
    groups = [Group(key, takes[i][hours[i] > 0.0], hours[i][hours[i] > 0.0]) for i, key in enumerate(ways)]
    return [(ways[group.key], group) for group in groups if len(group.hours)]


def _by_fly(found: StretchRows, of: str) -> tuple[list[Way], list[Group]]:
    """Return the flies: each of a team was in the water as long as the team was, and brought what came to it."""
    which = 1 if of == "takes" else 2
    each = [(row, fly) for row, team in enumerate(found.columns["by_fly"]) for fly in team if fly[0]]
    names = list(dict.fromkeys(fly[0] for _, fly in each))
    place = {name: i for i, name in enumerate(names)}
    row = np.array([row for row, _ in each], dtype=np.int64)
    row_of = np.array([place[fly[0]] for _, fly in each], dtype=np.int64)
    took = np.array([fly[which] for _, fly in each], dtype=np.float64)
    ways = {name: Way(name, Phrase(name)) for name in names}
    kept = _summed(ways, row_of, found.day[row], found.days, took, found.sums["hours"][row])
    return [way for way, _ in kept], [group for _, group in kept]


def _by_level(found: StretchRows, by: str, of: str) -> tuple[list[Way], list[Group]]:
    assert found.layers is not None
    if not found.days:
        return [], []
    first, parts = LEVELS[by], LAYERS // LAYER_GROUP
    order = np.argsort(found.day, kind="stable")
    begins = np.flatnonzero(np.diff(found.day[order], prepend=-1))
    takes, hours = (
        np.add.reduceat(found.layers[order, row], begins, axis=0)
        .reshape(found.days, parts, LAYER_GROUP)
        .sum(axis=2, dtype=float)
        for row in (first + (1 if of == "takes" else 2), first)
    )
    step = LOG_LAYER_M * LAYER_GROUP
    ways, groups = [], []
    for part in range(min(parts, DEEPEST_SHOWN)):
        on = hours[:, part] > 0.0
        if not on.any():
            continue
        low, high = step * part, step * (part + 1)
        ways.append(Way(f"{part:02d}", Phrase("{low_m} to {high_m}", {"low_m": low, "high_m": high}), low, high))
        groups.append(Group(f"{part:02d}", takes[on, part], hours[on, part] / 3600.0))
    return ways, groups
