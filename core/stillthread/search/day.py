"""From the log so far to what it means and what to do: the one question that server and device both answer."""

from __future__ import annotations

import json
import math
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field
from typing import Any

from stillthread.search import said
from stillthread.search.belief import Belief, Event
from stillthread.search.grid import Grid
from stillthread.search.policy import Move, empty, next_move
from stillthread.search.presentation import LAYER_M, Costs, Exposed, Presentation
from stillthread.search.schools import leaned

FISH = frozenset({"take", "lost", "landed"})
ENDS = frozenset({"nothing", *FISH})
FOLLOW_SD_M, SEEN_SD_M, TOLD_SD_M = 0.3, 0.4, 0.6
FOLLOW_DOUBT, SEEN_DOUBT, TOLD_DOUBT = 0.5, 0.3, 0.5


@dataclass
class Table:
    """What is handed over with the plan: the grid, every presentation worth thinking of, and what changes cost.

    `shift` tells how the light is expected to move the fish: pairs of minutes since the beginning and metres deeper than then.
    """

    grid: Grid
    options: tuple[Presentation, ...]
    classes: tuple[str, ...]
    costs: Costs = field(default_factory=Costs)
    shift: tuple[tuple[float, float], ...] = ()
    day_min: float = 240.0

    @classmethod
    def of(cls, told: Mapping[str, Any]) -> Table:
        grid = Grid(*(tuple(map(float, told["grid"][name])) for name in ("centres_m", "reaches_m", "stated", "wanted")))
        options = tuple(Presentation.of(one) for one in told["options"])
        shift = tuple((float(at), float(by)) for at, by in told.get("shift", ()))
        costs = Costs(**{name: float(value) for name, value in told.get("costs", {}).items()})
        return cls(grid, options, tuple(told["classes"]), costs, shift, float(told.get("day_min", 240.0)))

    def shift_m(self, at_min: float) -> float:
        """Return how much deeper than at the beginning they are expected [m], between the hours of the day strip."""
        before = (0.0, 0.0)
        for at, by in self.shift:
            if at >= at_min:
                span = at - before[0]
                return by if span <= 0.0 else before[1] + (by - before[1]) * (at_min - before[0]) / span
            before = (at, by)
        return before[1]


@dataclass
class Day:
    """A day as it is fished: the belief, and what is needed to say what it rests on."""

    table: Table
    belief: Belief
    known: dict[str, Exposed] = field(default_factory=dict)
    blanks: list[tuple[str, int]] = field(default_factory=list)
    minutes_in: list[float] = field(default_factory=list)
    events: list[tuple[float, Event]] = field(default_factory=list)
    at_min: float = 0.0
    casts: int = 0
    now: str | None = None
    since_change_min: float = 0.0
    here_since_min: float = 0.0
    moved_cells: int = 0

    def exposed(self, one: Presentation) -> Exposed:
        if one.key not in self.known:
            self.known[one.key] = Exposed(one, self.table.grid)
        return self.known[one.key]

    def pass_to(self, at_min: float) -> None:
        self.belief.wait(at_min - self.at_min)
        self.at_min = max(self.at_min, at_min)
        cells = round(self.table.shift_m(self.at_min) / self.table.grid.step_m)
        if cells != self.moved_cells:
            self.belief.shift(cells - self.moved_cells)
            self.moved_cells = cells

    def cast(self, exposed: Exposed, events: Sequence[Event]) -> None:
        self.belief.cast(exposed, events)
        self.casts += 1
        for span_min, depths in exposed.spans:
            for depth in depths:
                layer = int(depth / LAYER_M)
                self.minutes_in += [0.0] * (layer + 1 - len(self.minutes_in))
                self.minutes_in[layer] += span_min / len(depths)
        key = exposed.one.key
        if events:
            self.blanks = []
        elif self.blanks and self.blanks[-1][0] == key:
            self.blanks[-1] = (key, self.blanks[-1][1] + 1)
        else:
            self.blanks.append((key, 1))


def replay(table: Table, log: Mapping[str, Any]) -> Day:
    """Return the day after all that happened in it.

    `log` holds `fished`, presentations by id, and `happened`, in order: each with `at_min` since the beginning, its `kind`, and
    by kind the id of what was `fished`, a `depth_m`, a `fly` by its place on the leader. An open cast counts once something
    came in it.
    """
    day = Day(table, Belief(table.grid))
    fished = {name: Presentation.of(one) for name, one in log.get("fished", {}).items()}
    open_id: str | None = None
    came: list[Event] = []

    def close() -> None:
        nonlocal open_id
        if open_id is not None:
            day.cast(day.exposed(fished[open_id]), came)
        open_id = None
        came.clear()

    for one in log.get("happened", ()):
        kind, at_min = one["kind"], float(one["at_min"])
        if kind == "cast":
            close()
            day.pass_to(at_min)
            open_id = one["fished"]
            if day.now != open_id:
                day.now, day.since_change_min = open_id, at_min
            continue
        day.pass_to(at_min)
        if kind in {"knock", *FISH}:
            event = Event(float(one["depth_m"]), kind in FISH, one.get("fly"))
            if open_id is None:
                open_id = one["fished"]
            came.append(event)
            day.events.append((at_min, event))
        if kind in ENDS:
            close()
        elif kind == "follow":
            day.belief.seen(float(one["depth_m"]), FOLLOW_SD_M, FOLLOW_DOUBT)
        elif kind == "seen":
            day.belief.seen(float(one["depth_m"]), SEEN_SD_M, SEEN_DOUBT)
        elif kind == "told":
            day.belief.seen(float(one["depth_m"]), TOLD_SD_M, TOLD_DOUBT)
        elif kind == "place":
            close()
            day.belief.elsewhere()
            day.here_since_min, day.blanks = at_min, []
    if came:
        close()
    day.pass_to(float(log.get("now_min", day.at_min)))
    return day


def think(table: Mapping[str, Any], log: Mapping[str, Any]) -> dict[str, Any]:
    """Return what the log so far means, and the move: JSON in, JSON out.

    Besides what `replay` reads, `log` may hold `refused`, keys of presentations that the angler will not fish; the `school`;
    and `most_min`, his own clock of minutes without anything before he changes.
    """
    known = Table.of(table)
    day = replay(known, log)
    fished = {name: Presentation.of(one) for name, one in log.get("fished", {}).items()}
    now = day.exposed(fished[day.now]) if day.now else None
    refused = {one["key"] for one in log.get("refused", ())}
    options = [day.exposed(one) for one in known.options if one.key not in refused]
    since = day.at_min - day.events[-1][0] if day.events else None
    quiet_min = min(day.at_min - day.since_change_min, since if since is not None else math.inf)
    school = str(log.get("school", "best"))
    options = leaned(options, now, school, searching=since is None or since > quiet_min, quiet_min=quiet_min,
                     most_min=float(log.get("most_min") or math.inf))  # fmt: skip
    left = max(known.day_min - day.at_min, 1.0)
    move = next_move(
        day.belief, options, now, costs=known.costs, left_min=left, since_event_min=since,
        here_min=day.at_min - day.here_since_min, must_change=quiet_min >= float(log.get("most_min") or math.inf),
    ) if options or now else None  # fmt: skip
    return _told(day, move)


def think_json(table: str, log: str) -> str:
    """`think`, from text to text: what crosses to a worker and back."""
    return json.dumps(think(json.loads(table), json.loads(log)))


def _told(day: Day, move: Move | None) -> dict[str, Any]:
    grid, joint = day.table.grid, day.belief.joint()
    rates = len(joint[0]) // len(grid.cells)
    width = rates * len(grid.reaches_m)
    there = [
        math.fsum(row[c * width + i] for row in joint for i in range(width) if i % rates) for c in range(len(grid.centres_m))
    ]
    total = math.fsum(there) or 1.0
    flies = [math.fsum(row) for row in joint]
    return {
        "casts": day.casts,
        "ridge": [{"depth_m": c, "chance": p / total} for c, p in zip(grid.centres_m, there, strict=True)],
        "empty": empty(joint),
        "wanted": dict(zip(("any", *day.table.classes), flies, strict=True)),
        "kinds": day.belief.kinds(),
        "fished": [{"depth_m": LAYER_M * (i + 0.5), "minutes": m} for i, m in enumerate(day.minutes_in) if m > 0.0],
        "said": [asdict(one) for one in said.what_it_means(day)],
        "move": None if move is None else {**asdict(move), "words": [asdict(one) for one in said.what_to_do(day, move)]},
    }
