"""A day as it is fished: what is thought of, and what has been learnt so far."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from stillthread.search import messages
from stillthread.search.belief import Event, SearchBelief
from stillthread.search.fan import Spot
from stillthread.search.grid import USUAL_RATE_PMIN, Grid
from stillthread.search.likes import HITS, MISSES, UNKNOWN_HOOK, Answer, FlyAbout
from stillthread.search.presentation import LAYER_M, USUAL_PACE_MPS, Costs, Exposed, Presentation
from stillthread.search.steps import Pace

PACES = {"still": 0.005, "slow": 0.05, "quick": 0.3}  # common practice: as an angler would tell his neighbour [m/s]

OF_LATE_CASTS = 3  # ours, bounds 2 to 10: what did not hold longer ago says nothing of the fly that is on


@dataclass(kw_only=True)
class Table:
    """What is handed over with the plan: the grid, every presentation worth thinking of, and what changes cost.

    `shift` tells how the light is expected to move the fish: pairs of minutes since the beginning and metres deeper than then.
    `about` tells of the flies of the box, `paces` how they may be brought back: with both, steps from any rig are thought of.
    `second_fly`, 0 to 1, is how much the weaker flies of a team add, as the plan weighs them.
    """

    grid: Grid
    options: tuple[Presentation, ...]
    classes: tuple[str, ...]
    costs: Costs = field(default_factory=Costs)
    shift: tuple[tuple[float, float], ...] = ()
    day_min: float = 240.0
    about: Mapping[str, FlyAbout] = field(default_factory=dict)
    paces: tuple[Pace, ...] = ()
    second_fly: float = 0.0

    @classmethod
    def of(cls, told: Mapping[str, Any]) -> Table:
        centres_m, reaches_m, stated, wanted = (
            tuple(map(float, told["grid"][name])) for name in ("centres_m", "reaches_m", "stated", "wanted")
        )
        grid = Grid(centres_m, reaches_m, stated, wanted, float(told["grid"].get("rate_pmin") or USUAL_RATE_PMIN))
        options = tuple(Presentation.of(one) for one in told["options"])
        shift = tuple((float(one["at_min"]), float(one["deeper_m"])) for one in told.get("shift", ()))
        costs = Costs(**{name: float(value) for name, value in told.get("costs", {}).items()})
        about = {name: FlyAbout.of(one) for name, one in told.get("about", {}).items()}
        paces = tuple(Pace.of(one) for one in told.get("retrieves", ()))
        day_min = float(told.get("day_min", 240.0))
        second_fly = float(told.get("second_fly", 0.0))
        return cls(
            grid=grid,
            options=options,
            classes=tuple(told["classes"]),
            costs=costs,
            shift=shift,
            day_min=day_min,
            about=about,
            paces=paces,
            second_fly=second_fly,
        )

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
    """A day as it is fished: the belief, and what is needed to say what it rests on.

    `blanks` are ways with their casts in a row without anything, whatever was changed between them; `idle` the casts that each
    way has had without anything; `answers` what came of each fly; `came_off` what came and did not hold since a
    fish that did: after how many casts, and to which flies.
    """

    table: Table
    belief: SearchBelief
    known: dict[str, Exposed] = field(default_factory=dict)
    paths: dict[tuple[Any, Any], Exposed] = field(default_factory=dict)
    blanks: list[tuple[str, int]] = field(default_factory=list)
    idle: dict[str, int] = field(default_factory=dict)
    minutes_in: list[float] = field(default_factory=list)
    events: list[tuple[float, Event]] = field(default_factory=list)
    answers: list[Answer] = field(default_factory=list)
    felt: list[messages.Felt] = field(default_factory=list)
    at_min: float = 0.0
    casts: int = 0
    came_off: list[tuple[int, tuple[str, ...]]] = field(default_factory=list)
    took: set[str] = field(default_factory=set)
    others_min: float | None = None
    now: str | None = None
    since_change_min: float = 0.0
    changed_casts: int = 0
    heard_casts: int = -1
    fish_casts: int | None = None
    here_since_min: float = 0.0
    moved_cells: int = 0
    water_changed: bool = False
    spots: list[Spot] = field(default_factory=list)

    def exposed(self, one: Presentation) -> Exposed:
        known = self.known.get(one.key)
        if known is None or known.one.share != one.share:
            path = (one.time_s, one.depth_m)
            like = self.paths.get(path)
            known = self.known[one.key] = Exposed(one, self.table.grid, like)
            self.paths.setdefault(path, known)
        return known

    def forget(self, but: Collection[str]) -> None:
        """Keep no more in mind than what was fished and may be proposed."""
        for key in [key for key in self.known if key not in but]:
            del self.known[key]
        for path in [path for path, one in self.paths.items() if one.one.key not in but]:
            del self.paths[path]

    def pass_to(self, at_min: float) -> None:
        self.belief.wait(at_min - self.at_min)
        self.at_min = max(self.at_min, at_min)
        cells = round(self.table.shift_m(self.at_min) / self.table.grid.step_m)
        if cells != self.moved_cells:
            self.belief.shift(cells - self.moved_cells)
            self.moved_cells = cells
            self.idle = {}  # the light has moved them: what was blank may be where they are now

    def cast(self, exposed: Exposed, events: Sequence[Event], *, came_near: bool = False) -> None:
        """Learn from a cast; one that a fish followed and left is no blank."""
        self.casts += 1
        for span_min, depths in exposed.spans:
            for depth in depths:
                layer = int(depth / LAYER_M)
                self.minutes_in += [0.0] * (layer + 1 - len(self.minutes_in))
                self.minutes_in[layer] += span_min / len(depths)
        key = exposed.one.key
        if events or came_near:
            self.blanks = []
            self.idle[key] = 0
        else:
            self.idle[key] = self.idle.get(key, 0) + 1
            if self.blanks and self.blanks[-1][0] == key:
                self.blanks[-1] = (key, self.blanks[-1][1] + 1)
            else:
                self.blanks.append((key, 1))
        if events or not came_near:
            self.belief.cast(exposed, events)

    def answered(self, one: Presentation, kind: str, fly: int | None) -> None:
        """Keep what came of the flies of a way: of all of them, where nobody knows which."""
        seats = range(len(one.flies)) if fly is None else (min(fly, len(one.flies) - 1),)
        share = 1.0 / len(seats)
        for i in seats:
            about = self.table.about.get(one.flies[i].name) or FlyAbout(fly_class=one.flies[i].fly_class)
            hit, miss = share * HITS.get(kind, 0.0), share * MISSES.get(kind, 0.0)
            self.answers.append(Answer(one.flies[i].name, about, one.pace_mps, hit, miss, self.casts))

    def miss(self, one: Presentation, fly: int | None) -> None:
        """Keep that something came to a fly and did not hold."""
        self.came_off.append((self.casts, tuple(tied.name for i, tied in enumerate(one.flies) if fly in (None, i))))

    @property
    def misses(self) -> int:
        """How many came and did not hold of late."""
        return len(self._of_late)

    @property
    def missed(self) -> frozenset[str]:
        """To which flies they came."""
        return frozenset(name for names in self._of_late for name in names)

    @property
    def _of_late(self) -> list[tuple[str, ...]]:
        return [names for casts, names in self.came_off if self.casts - casts <= OF_LATE_CASTS]

    def heard_of(self, told: Mapping[str, Any]) -> None:
        """Keep what another's fish took, as far as he told."""
        fly_class = int(told.get("fly_class") or 0)
        if fly_class or told.get("colour") or told.get("hook_size") or told.get("pace"):
            about = FlyAbout(
                fly_class=fly_class, colour=str(told.get("colour") or ""), hook_size=int(told.get("hook_size") or UNKNOWN_HOOK)
            )
            pace = PACES.get(str(told.get("pace")), USUAL_PACE_MPS)
            self.answers.append(Answer("", about, pace, HITS["told"], 0.0, self.casts))
