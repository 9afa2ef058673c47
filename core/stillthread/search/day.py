"""From the log so far to what it means and what to do: the one question that server and device both answer."""

from __future__ import annotations

import json
import math
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field, replace
from typing import Any

from stillthread.search import messages
from stillthread.search.belief import Event, SearchBelief
from stillthread.search.fan import Spot, covered, next_spot
from stillthread.search.grid import Grid, to_one
from stillthread.search.log import read_log
from stillthread.search.policy import Move, empty, next_move, second_rod
from stillthread.search.presentation import LAYER_M, Costs, Exposed, Presentation
from stillthread.search.schools import leaned
from stillthread.trade.entries import ENDS_CAST, FELT, FISH, OF_CAST, same_fish
from stillthread.trade.usual import BAND_MASS

CHANGED_SHARE = 0.3  # ours, bounds 0 to 1
"""Of what is believed, how much a change of the water takes back to the reading."""
CATCHING_DOUBT, CLASS_DOUBT = 0.4, 0.4  # ours, bounds 0 to 1: others may fish otherwise
HEARD = {"follow": (0.3, 0.5), "seen": (0.4, 0.3), "told": (0.6, 0.5)}  # ours, bounds 0.1 to 2 m and 0 to 1
"""Fish at a depth by what is seen or told: how surely there [m], and the doubt that it says anything of these."""


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
        shift = tuple((float(one["at_min"]), float(one["deeper_m"])) for one in told.get("shift", ()))
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
    belief: SearchBelief
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
    spots: list[Spot] = field(default_factory=list)

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


@dataclass
class Replay:
    """A day as its log is read, line by line: what has been learnt, and the cast that is still in the water."""

    day: Day
    open_id: str | None = None
    came: list[Event] = field(default_factory=list)
    before: str | None = None

    def copy(self) -> Replay:
        day = self.day
        belief = day.belief.copy()
        blanks, minutes_in, events = list(day.blanks), list(day.minutes_in), list(day.events)
        same = replace(day, belief=belief, blanks=blanks, minutes_in=minutes_in, events=events, spots=list(day.spots))
        return Replay(same, self.open_id, list(self.came), self.before)

    def read(self, one: Mapping[str, Any], fished: Mapping[str, Presentation]) -> None:
        """Take one line of the log.

        It has `at_min` since the beginning, its `kind`, and by kind the id of what was `fished`, a `depth_m`, a `fly` by its
        place on the leader, a `fly_class` that another took, where a cast went (`toward`, `far`), and of water that changed
        what a new reading has `stated` of the depths and `wanted` of the flies.
        """
        day, kind, at_min = self.day, one["kind"], float(one["at_min"])
        if kind == "cast":
            self.close(fished)
            self.before = kind
            day.pass_to(at_min)
            self.open_id = one["fished"]
            if day.now != self.open_id:
                before = fished[day.now].flies if day.now else None
                day.now, day.since_change_min = self.open_id, at_min
                if before != fished[self.open_id].flies:
                    day.spots = []
            if one.get("toward") is not None:
                day.spots.append((int(one["toward"]), bool(one.get("far"))))
            return
        day.pass_to(at_min)
        last, self.before = self.before, kind if kind in OF_CAST else self.before
        if same_fish(last, kind):
            return
        if kind in FELT:
            event = Event(float(one["depth_m"]), kind in FISH, one.get("fly"))
            self.open_id = self.open_id or one["fished"]
            self.came.append(event)
            day.events.append((at_min, event))
        if kind in ENDS_CAST:
            self.close(fished)
        elif kind in HEARD:
            day.belief.seen(float(one["depth_m"]), *HEARD[kind])
            if one.get("fly_class"):
                day.belief.takes_class(int(one["fly_class"]), CLASS_DOUBT)
        elif kind == "catching":
            day.belief.catching(CATCHING_DOUBT)
        elif kind == "changed":
            self.close(fished)
            new = None
            if one.get("stated"):
                new = replace(day.table.grid, stated=to_one(one["stated"]), wanted=to_one(one["wanted"]))
                day.table = replace(day.table, grid=new)
            day.belief.renewed(CHANGED_SHARE, new)
        elif kind == "place":
            self.close(fished)
            day.belief.elsewhere()
            day.here_since_min, day.blanks, day.spots = at_min, [], []

    def close(self, fished: Mapping[str, Presentation]) -> None:
        """End the cast that is in the water, with what came in it."""
        if self.open_id is not None:
            self.day.cast(self.day.exposed(fished[self.open_id]), self.came)
        self.open_id, self.came = None, []


class Thinker:
    """Answers the same question again and again as the log grows: what it has read it does not read again."""

    def __init__(self, table: Mapping[str, Any]) -> None:
        self.table = Table.of(table)
        self._known = {one.key: Exposed(one, self.table.grid) for one in self.table.options}
        self._read: list[Any] = []
        self._at = self._begun()

    def _begun(self) -> Replay:
        return Replay(Day(self.table, SearchBelief(self.table.grid), self._known))

    def day(self, log: Mapping[str, Any], fished: Mapping[str, Presentation]) -> Day:
        """Return the day after all that happened in it. A cast that is still in the water counts once something came in it."""
        happened = list(log.get("happened", ()))
        if self._read != happened[: len(self._read)]:
            self._read, self._at = [], self._begun()
        for one in happened[len(self._read) :]:
            self._at.read(one, fished)
        self._read = happened
        end = self._at.copy()
        if end.came:
            end.close(fished)
        end.day.pass_to(float(log.get("now_min", end.day.at_min)))
        return end.day

    def think(self, log: Mapping[str, Any]) -> dict[str, Any]:
        """Return what the log so far means, and the move: JSON in, JSON out.

        `log` holds `fished`, presentations by id; `happened`, in order (see `Replay.read`); `now_min`; the id of what is tied
        on `now`, where it is not what was cast last; and may hold `refused`, keys of presentations that the angler will not
        fish, the `school`, how many `rods` he fishes, and `most_min`, his own clock of minutes without anything before he
        changes.
        """
        fished = {name: Presentation.of(one) for name, one in log.get("fished", {}).items()}
        day = self.day(log, fished)
        tied = log.get("now") or day.now
        if tied != day.now:
            day.now, day.since_change_min = tied, day.at_min
        now = day.exposed(fished[tied]) if tied else None
        refused = {one["key"] for one in log.get("refused", ())}
        options = [day.exposed(one) for one in self.table.options if one.key not in refused]
        since = day.at_min - day.events[-1][0] if day.events else None
        quiet_min = min(day.at_min - day.since_change_min, since if since is not None else math.inf)
        most_min = float(log.get("most_min") or math.inf)
        options = leaned(
            options, now, str(log.get("school", "best")), searching=since is None or since > quiet_min,
            quiet_min=quiet_min, most_min=most_min,
        )  # fmt: skip
        if not options and now is None:
            return _told(day, None)
        other = second_rod(day.belief, options, now) if now is not None and log.get("rods", 1) > 1 else None
        move = next_move(
            day.belief, options, now, costs=self.table.costs, left_min=max(self.table.day_min - day.at_min, 1.0),
            since_event_min=since, here_min=day.at_min - day.here_since_min, must_change=quiet_min >= most_min,
        )  # fmt: skip
        return _told(day, move, other)


def think(table: Mapping[str, Any], log: Mapping[str, Any]) -> dict[str, Any]:
    """Return what a log means under a table, asked once."""
    return Thinker(table).think(log)


_kept: dict[str, tuple[dict[str, Any], Thinker]] = {}


def think_json(table: str, logged: str) -> str:
    """Return what a day's log means, as `read_log` takes it, from text to text: what crosses to a worker and back. The last
    table's thinker is kept."""
    if table not in _kept:
        _kept.clear()
        read = json.loads(table)
        _kept[table] = read, Thinker(read)
    read, thinker = _kept[table]
    return json.dumps(thinker.think(read_log(read, json.loads(logged))))


def _band(grid: Grid, ridge: Sequence[float]) -> dict[str, float]:
    """Return the shortest run of depths that holds `BAND_MASS` of the chance."""
    best = (len(ridge), 0)
    for first in range(len(ridge)):
        held = 0.0
        for length, share in enumerate(ridge[first:], 1):
            held += share
            if held >= float(BAND_MASS):
                best = min(best, (length, first))
                break
    length, first = best
    top = grid.centres_m[first] - 0.5 * grid.step_m
    return {"top_m": top, "bottom_m": top + length * grid.step_m, "chance": math.fsum(ridge[first : first + length])}


def _told(day: Day, move: Move | None, other: Exposed | None = None) -> dict[str, Any]:
    grid, joint = day.table.grid, day.belief.joint()
    rates = len(joint[0]) // len(grid.cells)
    width = rates * len(grid.reaches_m)
    there = [
        math.fsum(row[c * width + i] for row in joint for i in range(width) if i % rates) for c in range(len(grid.centres_m))
    ]
    total = math.fsum(there) or 1.0
    flies = [math.fsum(row) for row in joint]
    ridge = [p / total for p in there]
    return {
        "casts": day.casts,
        "band": _band(grid, ridge),
        "ridge": [{"depth_m": c, "chance": p} for c, p in zip(grid.centres_m, ridge, strict=True)],
        "empty": empty(joint),
        "wanted": dict(zip(("any", *day.table.classes), flies, strict=True)),
        "kinds": day.belief.kinds(),
        "fished": [{"depth_m": LAYER_M * (i + 0.5), "minutes": m} for i, m in enumerate(day.minutes_in) if m > 0.0],
        "fan": {
            "next": dict(zip(("toward", "far"), next_spot(day.spots), strict=True)),
            "covered": [{"toward": t, "far": far, "casts": n} for (t, far), n in covered(day.spots).items()],
        },
        "other_rod": None if other is None else {"key": other.one.key, "words": asdict(messages.of_other_rod(other))},
        "said": [asdict(one) for one in messages.what_it_means(day)],
        "move": None if move is None else {**asdict(move), "words": [asdict(one) for one in messages.what_to_do(day, move)]},
    }
