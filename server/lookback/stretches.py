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
from stillthread.api import LOG_LAYER_M, PARTS, Group, Phrase, hours_alike, part_of, unsure_by

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
OF_THE_DAY = ("hour", "way")
"""Read whatever is asked: how many took in a part of the day is told apart from what they took."""
ORDERED = ("depth", "above_bottom", "temperature", "light", "wind", "hour", "month")
"""Those that have an order of their own; the others are told by what they brought."""


@dataclass(kw_only=True, frozen=True, slots=True)
class StretchRows:
    """The stretches of a query: which day each is of, 0 to `days`, hours, takes and landed, (n_row,); the columns that were
    asked for; for those by depth their layers, (n_row, 6, `LAYERS`); and in which part of the day each was, (n_row,)."""

    day: Ints
    days: int
    sums: dict[str, Floats]
    columns: dict[str, tuple[Any, ...]]
    layers: np.ndarray[Any, Any] | None
    part: Ints

    def total(self, name: str) -> float:
        return float(self.sums[name].sum())


def fished(owner: User, query: DaysQuery, groupings: Sequence[str]) -> StretchRows:
    """Return what was fished on the days that a query is about, as far as these groupings need it."""
    asked = ["by_fly" if by == FLY else BY[by].column for by in groupings if by == FLY or by in BY]
    names = list(dict.fromkeys([*OF_THE_DAY, *asked]))
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
    part = np.array([part_of(hour) for hour in kept["hour"]], dtype=np.int64)
    return StretchRows(day=day.ravel(), days=len(ids), sums=sums, columns=kept, layers=packed, part=part)


def grouped(found: StretchRows, by: str, of: str) -> tuple[list[Way], list[Group]]:
    """Return the ways of a chart with their takes (or fish landed) and hours on each day."""
    if by in LEVELS:
        return _by_level(found, by, of)
    if by == FLY:
        return _by_fly(found, of)
    values, which = np.unique(np.array(found.columns[BY[by].column]), return_inverse=True)
    told = [BY[by].way(value) for value in values.tolist()]
    ways = {way.key: way for way in told if way is not None}
    place = {key: i for i, key in enumerate(ways)}
    way_of = np.array([-1 if way is None else place[way.key] for way in told], dtype=np.int64)[which.ravel()]
    row = np.flatnonzero(way_of >= 0)
    kept = _summed(found, ways, row, way_of[row], found.sums[of][row], alike=by != "hour")
    if by in ORDERED:
        kept.sort(key=lambda pair: int(pair[1].key))
    return [way for way, _ in kept], [group for _, group in kept]


def _by_fly(found: StretchRows, of: str) -> tuple[list[Way], list[Group]]:
    """Return the flies: each of a team was in the water as long as the team was, and brought what came to it."""
    which = 1 if of == "takes" else 2
    each = [(row, fly) for row, team in enumerate(found.columns["by_fly"]) for fly in team if fly[0]]
    ways = {fly[0]: Way(fly[0], Phrase(fly[0])) for _, fly in each}
    place = {key: i for i, key in enumerate(ways)}
    row = np.array([row for row, _ in each], dtype=np.int64)
    way_of = np.array([place[fly[0]] for _, fly in each], dtype=np.int64)
    took = np.array([fly[which] for _, fly in each], dtype=np.float64)
    kept = _summed(found, ways, row, way_of, took, alike=True)
    return [way for way, _ in kept], [group for _, group in kept]


def _summed(
    found: StretchRows, ways: dict[str, Way], row: Ints, way_of: Ints, took: Floats, *, alike: bool
) -> list[tuple[Way, Group]]:
    """Return each way with its sums by day, of rows that each belong to one; hours count `alike` whatever the part of the day,
    so that no way is better for being kept for the evening."""
    shape = (len(ways), found.days)
    cell = way_of * found.days + found.day[row]
    part, fished_h = found.part[row], found.sums["hours"][row]
    counted_h = hours_alike(took, fished_h, way_of.tolist(), part.tolist()) if alike else fished_h
    takes, hours, counted = (
        np.bincount(cell, weights=values, minlength=shape[0] * shape[1]).reshape(shape)
        for values in (took, fished_h, counted_h)
    )
    unsure = unsure_by(took, part.tolist()) if alike else np.zeros(PARTS)
    groups = []
    for i, key in enumerate(ways):
        on, own = hours[i] > 0.0, way_of == i
        if on.any():
            share = np.bincount(part[own], weights=counted_h[own], minlength=PARTS)
            sd = _unsure(share, unsure)
            groups.append((ways[key], Group(key, takes[i][on], hours[i][on], counted[i][on], sd)))
    return groups


def _unsure(share: np.ndarray[Any, Any], of_part: Floats) -> float:
    """Return how unsure the hours of a way are as a whole, by how much of them lies in each part of the day."""
    total = float(share.sum())
    return float(np.sqrt((share / total) ** 2 @ of_part)) if total else 0.0


def _by_level(found: StretchRows, by: str, of: str) -> tuple[list[Way], list[Group]]:
    assert found.layers is not None
    if not found.days:
        return [], []
    first, parts = LEVELS[by], LAYERS // LAYER_GROUP
    _, method = np.unique(np.array(found.columns["way"]), return_inverse=True)
    fished_h = found.sums["hours"]
    part = found.part.tolist()
    alike_h = hours_alike(found.sums[of], fished_h, method.ravel().tolist(), part)
    counts = np.divide(alike_h, fished_h, out=np.ones(len(fished_h)), where=fished_h > 0.0)
    unsure = unsure_by(found.sums[of], part)
    order = np.argsort(found.day, kind="stable")
    begins = np.flatnonzero(np.diff(found.day[order], prepend=-1))

    def by_day(of_row: np.ndarray[Any, Any]) -> Floats:
        summed = np.add.reduceat(of_row[order], begins, axis=0)
        return np.asarray(summed.reshape(found.days, parts, LAYER_GROUP).sum(axis=2, dtype=float))

    seconds = found.layers[:, first]
    takes, hours = by_day(found.layers[:, first + (1 if of == "takes" else 2)]), by_day(seconds)
    counted = by_day(seconds * counts[:, None])
    step = LOG_LAYER_M * LAYER_GROUP
    ways, groups = [], []
    for level in range(min(parts, DEEPEST_SHOWN)):
        on = hours[:, level] > 0.0
        if not on.any():
            continue
        low, high = step * level, step * (level + 1)
        here = seconds[:, level * LAYER_GROUP : (level + 1) * LAYER_GROUP].sum(axis=1) * counts
        sd = _unsure(np.bincount(found.part, weights=here, minlength=PARTS), unsure)
        ways.append(Way(f"{level:02d}", Phrase("{low_m} to {high_m}", {"low_m": low, "high_m": high}), low, high))
        groups.append(Group(f"{level:02d}", takes[on, level], hours[on, level] / 3600.0, counted[on, level] / 3600.0, sd))
    return ways, groups
