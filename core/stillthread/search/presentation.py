"""A way to fish as the search sees it: where each fly is over one cast, what it costs in minutes, and who could take it."""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from stillthread.search.grid import ANY, Grid

EVENT_SD_M = 0.2  # ours, bounds 0.1 to 0.6: how well a path is known
TAKE, KNOCK = {True: 0.75, False: 0.15}, {True: 0.15, False: 0.35}  # ours, bounds 0 to 1
"""Of fish that meet a fly they want, and of those that meet one they do not: how many take, how many knock."""
LAYER_M = 0.1  # ours: a path is not known better
DRAWN_LAYER_M = 0.25  # ours: a path that is drawn and not run is known still less
AROUND_S = 10.0  # ours, bounds 3 to 30: a tap comes so long before or after what it tells of
FISHES_FROM = 1.0 / 3.0  # ours: of a drift or tow; by then the flies hang where they fish
USUAL_PACE_MPS = 0.1  # ours: of what is moved, where nothing says how fast
STILL_PACE_MPS = 0.005  # ours: as fast as a fly that hangs
TENTHS_A_MIN = 600.0  # by definition


@dataclass(frozen=True, slots=True)
class TiedFly:
    """A fly on the leader: its name, and the class of flies it belongs to, from 1."""

    name: str
    fly_class: int


@dataclass(kw_only=True, frozen=True)
class Presentation:
    """One cast, drift or tow.

    `minutes` from one to the next; `time_s` and, for each fly, `depth_m` its path; the rest says what has to be changed to come
    to it. `share`, 0 to 1, is how much of what the best pace and method would be answered this one is. `met` holds what
    `Exposed.minutes` would work out, where it was worked out beforehand for a grid: by which flies are wanted ("10": the point
    only), for each fly, cell by cell in tenths of a second. `action` is what the hands do, as the contract has it, and
    `leader_m` how long the leader is, where they are known; `drawn` that its path is drawn from that of another, not run, and
    `like` the key of that one: it is tied on the same line and leader.
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
    action: Mapping[str, Any] = field(default_factory=dict, compare=False)
    leader_m: float | None = field(default=None, compare=False)
    drawn: bool = field(default=False, compare=False)
    like: str = field(default="", compare=False)

    @property
    def still(self) -> bool:
        """Whether it hangs under a float."""
        return self.float_m is not None

    @property
    def count_s(self) -> float:
        """How long it sinks before it is moved [s]."""
        return float(self.action.get("count_s") or 0.0)

    @property
    def pace_mps(self) -> float:
        """How fast its flies are moved [m/s]."""
        if self.still:
            return STILL_PACE_MPS
        return float(self.action.get("retrieve_mps") or self.action.get("tow_mps") or USUAL_PACE_MPS)

    @property
    def fishes_from_s(self) -> float:
        """When its flies begin to fish [s]: once they are counted down, or hang."""
        end = self.time_s[-1]
        begins = self.count_s if self.action.get("kind") == "cast" else FISHES_FROM * end
        return min(begins, 0.8 * end)

    @cached_property
    def works(self) -> tuple[float, ...]:
        """The mean depth of each fly from when they fish [m]."""
        begins, found = self.fishes_from_s, []
        for path in self.depth_m:
            spent = sunk = 0.0
            for i in range(1, len(path)):
                step = self.time_s[i] - max(self.time_s[i - 1], begins)
                if step > 0.0:
                    spent, sunk = spent + step, sunk + step * 0.5 * (path[i] + path[i - 1])
            found.append(sunk / spent if spent else path[-1])
        return tuple(found)

    @property
    def works_m(self) -> float:
        """The mean depth of its flies from when they fish [m]."""
        return sum(self.works) / len(self.works)

    def changes_m(self, into_s: float, fly: int = 0) -> float:
        """Return by how much a fly goes up or down around a moment [m]: so unsure is how deep it was when something came."""
        around = [depth_along(self.time_s, self.depth_m[fly], into_s + by) for by in (-AROUND_S, 0.0, AROUND_S)]
        return max(around) - min(around)

    @classmethod
    def of(cls, told: Mapping[str, Any]) -> Presentation:
        flies = tuple(TiedFly(str(one["name"]), int(one["fly_class"])) for one in told["flies"])
        paths = tuple(tuple(map(float, path)) for path in told["depth_m"])
        return cls(
            key=str(told["key"]),
            method=str(told["method"]),
            line=str(told["line"]),
            flies=flies,
            minutes=float(told["minutes"]),
            time_s=tuple(map(float, told["time_s"])),
            depth_m=paths,
            float_m=told.get("float_m"),
            words=str(told.get("words", "")),
            values={name: float(value) for name, value in told.get("values", {}).items()},
            share=float(told.get("share", 1.0)),
            met=dict(told.get("met", {})),
            action=dict(told.get("action") or {}),
            leader_m=None if told.get("leader_m") is None else float(told["leader_m"]),
        )


def as_json(one: Presentation) -> dict[str, Any]:
    """Return a presentation as `Presentation.of` reads it."""
    return {
        "key": one.key, "method": one.method, "line": one.line, "minutes": one.minutes, "time_s": list(one.time_s),
        "depth_m": [list(path) for path in one.depth_m], "float_m": one.float_m, "words": one.words, "values": one.values,
        "share": one.share, "met": one.met, "action": dict(one.action) or None,
        "leader_m": one.leader_m,
        "flies": [{"name": fly.name, "fly_class": fly.fly_class} for fly in one.flies],
    }  # fmt: skip


def depth_along(time_s: Sequence[float], depth_m: Sequence[float], into_s: float) -> float:
    """Return how deep a path is so long into it [m], 0 or more.

    Examples
    --------
    >>> depth_along((0.0, 20.0), (0.0, 4.0), 5.0)
    1.0
    """
    i = bisect_right(time_s, into_s)
    if i == 0 or i == len(time_s):
        return max(0.0, float(depth_m[0 if i == 0 else -1]))
    share = (into_s - time_s[i - 1]) / ((time_s[i] - time_s[i - 1]) or 1.0)
    return max(0.0, depth_m[i - 1] + share * (depth_m[i] - depth_m[i - 1]))


class Exposed:
    """A presentation against a grid: minutes in which a fish of each cell could take each fly.

    Two flies compete: a fish that reaches both answers the one it wants, and of two alike the nearer to its level.
    """

    def __init__(self, one: Presentation, grid: Grid, like: Exposed | None = None) -> None:
        """Of one whose flies go the same way as those of another, `like`, is known what is known of that."""
        self.one, self.grid = one, grid
        self.spans: list[tuple[float, tuple[float, ...]]] = like.spans if like else spans_of(one)
        self._of: dict[tuple[bool, ...], tuple[tuple[float, ...], ...]] = like._of if like else {}
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
                for fly, shares in enumerate(_shared_of(list(map(self.grid.answered, depths)), wanted)):
                    found[fly] = [so_far + span_min * share for so_far, share in zip(found[fly], shares, strict=True)]
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

    def at(
        self,
        depth_m: float,
        wanted: tuple[bool, ...],
        *,
        took: bool,
        fly: int | None = None,
        sd_m: float = EVENT_SD_M,
    ) -> list[float]:
        """Return by cell how likely an event is at this depth in one cast, for one interested fish a minute, per metre; the
        depth is known to `sd_m` [m]."""
        found = [0.0] * len(self.grid.cells)
        weight = TAKE if took else KNOCK
        for span_min, depths in self.spans:
            near = [_bell(depth_m - z, sd_m) if fly in (None, i) else 0.0 for i, z in enumerate(depths)]
            if max(near) < 1e-12:
                continue
            for cell, of in enumerate(zip(*map(self.grid.answered, depths), strict=True)):
                shares = shared(of, _alike(wanted))
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


def _shared_of(reached: list[tuple[float, ...]], wanted: Sequence[bool]) -> list[Sequence[float]]:
    """Return `shared` of many cells at once: what they reach by fly, and so what is answered by fly."""
    if len(reached) == 1:
        return list(reached)
    shares: list[Sequence[float]] = [()] * len(reached)
    first: Sequence[float] = ()
    for group in (True, False):
        mine = [i for i, w in enumerate(wanted) if w == group]
        if not mine:
            continue
        best: list[float] = list(map(max, *(reached[i] for i in mine))) if len(mine) > 1 else list(reached[mine[0]])
        given = best if group else [max(r - f, 0.0) for r, f in zip(best, first, strict=True)] if first else best
        first = first or given
        for i in mine:
            # Of two that are reached alike the lower on the leader is answered.
            shares[i] = [g if r == b else 0.0 for r, b, g in zip(reached[i], best, given, strict=True)]
            best = [-1.0 if r == b else b for r, b in zip(reached[i], best, strict=True)]
    return shares


def spans_of(one: Presentation) -> list[tuple[float, tuple[float, ...]]]:
    """Return the path as minutes with every fly's depth, those of one layer together."""
    layer_m = DRAWN_LAYER_M if one.drawn else LAYER_M
    spans: dict[tuple[float, ...], float] = {}
    for i in range(1, len(one.time_s)):
        step_min = (one.time_s[i] - one.time_s[i - 1]) / 60.0
        pieces = max(1, math.ceil(max(abs(path[i] - path[i - 1]) for path in one.depth_m) / layer_m))
        for k in range(pieces):
            share = (k + 0.5) / pieces
            depths = tuple(
                layer_m * (math.floor((path[i - 1] + share * (path[i] - path[i - 1])) / layer_m) + 0.5) for path in one.depth_m
            )
            spans[depths] = spans.get(depths, 0.0) + step_min / pieces
    return [(minutes, depths) for depths, minutes in spans.items()]


def _bell(off_m: float, sd_m: float) -> float:
    return math.exp(-0.5 * (off_m / sd_m) ** 2) / (sd_m * math.sqrt(2.0 * math.pi))


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
