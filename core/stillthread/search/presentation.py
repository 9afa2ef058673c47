"""A way to fish as the search sees it: where each fly is over one cast, what it costs in minutes, and who could take it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from stillthread.search.grid import ANY, Grid
from stillthread.trade.usual import BELOW_M

EVENT_SD_M = 0.2  # ours, bounds 0.1 to 0.6: how well a path is known
TAKE, KNOCK = {True: 0.75, False: 0.15}, {True: 0.15, False: 0.35}  # ours, bounds 0 to 1
"""Of fish that meet a fly they want, and of those that meet one they do not: how many take, how many knock."""
LAYER_M = 0.1  # ours: a path is not known better
TENTHS_A_MIN = 600.0  # by definition


@dataclass(frozen=True, slots=True)
class TiedFly:
    """A fly on the leader: its name, and the class of flies it belongs to, from 1."""

    name: str
    fly_class: int


@dataclass(frozen=True)
class Presentation:
    """One cast, drift or tow.

    `minutes` from one to the next; `time_s` and, for each fly, `depth_m` its path; the rest says what has to be changed to come
    to it. `share`, 0 to 1, is how much of what the best pace and method would be answered this one is. `met` holds what
    `Exposed.minutes` would work out, where it was worked out beforehand for a grid: by which flies are wanted ("10": the point
    only), for each fly, cell by cell in tenths of a second.
    """

    key: str
    method: str
    line: str
    flies: tuple[TiedFly, ...]
    minutes: float
    time_s: tuple[float, ...]
    depth_m: tuple[tuple[float, ...], ...]
    float_m: float | None = None
    words: str = ""
    values: dict[str, float] = field(default_factory=dict, compare=False)
    share: float = 1.0
    met: dict[str, list[list[int]]] = field(default_factory=dict, compare=False)

    @classmethod
    def of(cls, told: Mapping[str, Any]) -> Presentation:
        flies = tuple(TiedFly(str(one["name"]), int(one["fly_class"])) for one in told["flies"])
        paths = tuple(tuple(map(float, path)) for path in told["depth_m"])
        return cls(
            str(told["key"]), str(told["method"]), str(told["line"]), flies, float(told["minutes"]),
            tuple(map(float, told["time_s"])), paths, told.get("float_m"), str(told.get("words", "")),
            {name: float(value) for name, value in told.get("values", {}).items()},
            float(told.get("share", 1.0)), dict(told.get("met", {})),
        )  # fmt: skip


def answers(centre_m: float, reach_m: float, fly_m: float) -> float:
    """Return how surely a fish at a depth answers a fly at another, 0 to 1: those below it rise, hardly any go down."""
    off = (centre_m - fly_m) / (reach_m if fly_m <= centre_m else float(BELOW_M))
    return math.exp(-off * off)


class Exposed:
    """A presentation against a grid: minutes in which a fish of each cell could take each fly.

    Two flies compete: a fish that reaches both answers the one it wants, and of two alike the nearer to its level.
    """

    def __init__(self, one: Presentation, grid: Grid) -> None:
        self.one, self.grid = one, grid
        self.spans = spans_of(one)
        self._of: dict[tuple[bool, ...], tuple[tuple[float, ...], ...]] = {}
        self._joint: dict[tuple[bool, ...], tuple[list[float], list[float], list[list[float]]]] = {}

    def wanted(self, fly: int) -> tuple[bool, ...]:
        """Return which flies on the leader fish want that want the class `fly`."""
        return tuple(fly == ANY or tied.fly_class == fly for tied in self.one.flies)

    def minutes(self, wanted: tuple[bool, ...]) -> tuple[tuple[float, ...], ...]:
        """Return for each fly the minutes of one cast in which a fish of each cell would answer that one."""
        wanted = _alike(wanted)
        known = self.one.met.get(mask_of(wanted))
        if wanted not in self._of and known is not None:
            self._of[wanted] = tuple(tuple(tenths / TENTHS_A_MIN for tenths in of) for of in known)
        if wanted not in self._of:
            found = [[0.0] * len(self.grid.cells) for _ in self.one.flies]
            for span_min, depths in self.spans:
                for cell, (c, u) in enumerate(self.grid.cells):
                    for fly, share in enumerate(shared([answers(c, u, z) for z in depths], wanted)):
                        found[fly][cell] += span_min * share
            self._of[wanted] = tuple(map(tuple, found))
        return self._of[wanted]

    def joint(self, wanted: tuple[bool, ...]) -> tuple[list[float], list[float], list[list[float]]]:
        """Return by cell, for one interested fish a minute: events a cast, takes a cast, and events on each fly."""
        if wanted not in self._joint:
            minutes = [[self.one.share * m for m in of] for of in self.minutes(wanted)]
            on = [[(TAKE[w] + KNOCK[w]) * s for s in of] for w, of in zip(wanted, minutes, strict=True)]
            takes = [sum(TAKE[w] * of[k] for w, of in zip(wanted, minutes, strict=True)) for k in range(len(self.grid.cells))]
            self._joint[wanted] = ([sum(of[k] for of in on) for k in range(len(takes))], takes, on)
        return self._joint[wanted]

    def at(self, depth_m: float, wanted: tuple[bool, ...], *, took: bool, fly: int | None = None) -> list[float]:
        """Return by cell how likely an event is at this depth in one cast, for one interested fish a minute, per metre."""
        found = [0.0] * len(self.grid.cells)
        weight = TAKE if took else KNOCK
        for span_min, depths in self.spans:
            near = [_bell(depth_m - z) if fly in (None, i) else 0.0 for i, z in enumerate(depths)]
            if max(near) < 1e-12:
                continue
            for cell, (c, u) in enumerate(self.grid.cells):
                shares = shared([answers(c, u, z) for z in depths], _alike(wanted))
                came = sum(weight[w] * share * n for w, share, n in zip(wanted, shares, near, strict=True))
                found[cell] += self.one.share * span_min * came
        return found


def mask_of(wanted: Sequence[bool]) -> str:
    return "".join("1" if w else "0" for w in wanted)


def _alike(wanted: tuple[bool, ...]) -> tuple[bool, ...]:
    """Flies of which none is wanted compete as those of which all are."""
    return wanted if any(wanted) else (True,) * len(wanted)


def shared(reached: Sequence[float], wanted: Sequence[bool]) -> list[float]:
    """Return which fly is answered, of those a fish reaches: a wanted one before the others, and the nearer of two alike."""
    if len(reached) == 1:
        return list(reached)
    first = max((k for k, w in zip(reached, wanted, strict=True) if w), default=0.0)
    rest = max((k for k, w in zip(reached, wanted, strict=True) if not w), default=0.0)
    shares, given = [0.0] * len(reached), {True: False, False: False}
    for i, (k, w) in enumerate(zip(reached, wanted, strict=True)):
        if k == (first if w else rest) and not given[w]:
            shares[i], given[w] = (first if w else max(0.0, rest - first)), True
    return shares


def spans_of(one: Presentation) -> list[tuple[float, tuple[float, ...]]]:
    """Return the path as minutes with every fly's depth, those of one layer together."""
    spans: dict[tuple[float, ...], float] = {}
    for i in range(1, len(one.time_s)):
        step_min = (one.time_s[i] - one.time_s[i - 1]) / 60.0
        pieces = max(1, math.ceil(max(abs(path[i] - path[i - 1]) for path in one.depth_m) / LAYER_M))
        for k in range(pieces):
            share = (k + 0.5) / pieces
            depths = tuple(
                LAYER_M * (math.floor((path[i - 1] + share * (path[i] - path[i - 1])) / LAYER_M) + 0.5) for path in one.depth_m
            )
            spans[depths] = spans.get(depths, 0.0) + step_min / pieces
    return [(minutes, depths) for depths, minutes in spans.items()]


def _bell(off_m: float) -> float:
    return math.exp(-0.5 * (off_m / EVENT_SD_M) ** 2) / (EVENT_SD_M * math.sqrt(2.0 * math.pi))


@dataclass(frozen=True, slots=True)
class Costs:
    """Minutes that a change takes: the angler's own where his log tells them."""

    line_min: float = 6.0
    fly_min: float = 2.5
    float_min: float = 1.0
    count_min: float = 0.0

    def between(self, now: Presentation | None, then: Presentation) -> float:
        """Return the minutes from one way to fish to another; none for what is being fished, and the line to begin with."""
        if now is None or now.key == then.key:
            return 0.0
        minutes = self.count_min
        if now.line != then.line or (now.float_m is None) != (then.float_m is None):
            minutes += self.line_min
        elif now.float_m != then.float_m:
            minutes += self.float_min
        # Seat by seat, the point first: flies that change places are both tied on anew.
        seats = [fly.name for fly in now.flies]
        anew = sum(i >= len(seats) or fly.name != seats[i] for i, fly in enumerate(then.flies))
        return minutes + self.fly_min * anew
