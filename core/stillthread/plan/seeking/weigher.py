"""Weigh ways to fish: a path is simulated once, with flies that stand for those that sink alike, and every team of the box is
weighed on it. What wins is tied on for good and simulated with its own flies."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import numpy.typing as npt

from stillthread.errors import FloatArray
from stillthread.plan.casting_water import water_for
from stillthread.plan.exposure import Exposure, quick_exposure
from stillthread.plan.methods.base import Given, Method, Way
from stillthread.plan.option import Option
from stillthread.plan.scoring.match import Answer
from stillthread.plan.scoring.scorer import Scorer
from stillthread.plan.seeking.beam import seat_teams
from stillthread.rules.water_rules import LURE_STYLES
from stillthread.sinking.cast import Water
from stillthread.tackle.build import Tied, Tippet, tippet_for
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.lines import Line
from stillthread.trade.usual import STILL_MPS

FIRST_LINES = 4  # ours: tried of each method for a first answer
CANDIDATES, BEAM = 8, 3  # ours: flies weighed for a seat, and half-built teams kept
WORTH_TRYING = 0.4  # ours: a class of flies this far behind the best is not simulated
NO_ROOM = "The leader it needs leaves too little line to cast."
MOST_UPPER = 2  # ours: classes of flies tried above the point
FLOATING_CLASSES = frozenset({"dry", "buoyant", "very buoyant"})


@dataclass(frozen=True, slots=True)
class Weighed:
    """A way with the best team on its path and what it is worth [takes an hour]."""

    way: Way
    flies: tuple[BoxFly, ...]
    takes_ph: float


@dataclass(frozen=True, slots=True)
class Real:
    """A way tied with its own flies, and what it is worth [takes an hour]."""

    way: Way
    option: Option
    takes_ph: float


@dataclass(frozen=True, slots=True)
class Found:
    """The best option of a method: `takes_ph` by its coarse run; `counts` are other counts or depths with what they give."""

    option: Option
    takes_ph: float
    counts: tuple[tuple[float, float], ...] = ()


@dataclass(kw_only=True, frozen=True, slots=True)
class SeatCandidates:
    """Who may sit on a seat: `flies`, what each is worth on each food (`weight`, n_fly by n_food) with its reach (`index`),
    whether it is a lure or attractor, and `who` it is of the box. `stand_in` is the middle one by how it sinks: its path
    stands for all."""

    flies: tuple[BoxFly, ...]
    weight: FloatArray
    index: npt.NDArray[np.int64]
    lures: npt.NDArray[np.int64]
    who: npt.NDArray[np.int64]
    stand_in: BoxFly | None


@dataclass(frozen=True, slots=True)
class _AtPace:
    """The whole box at one pace: how it answers each food (`answer`, n_fly by n_food), and what each fly would be worth all
    the time where it is worth most (`potential`, (n_fly,))."""

    answer: Answer
    potential: FloatArray


@dataclass(slots=True)
class Weigher:
    """Weighs ways under one scorer and remembers what it learned: `tried` paths, `of_lines` the best of each line and method
    [takes an hour]. `watch` is told of every option that is simulated."""

    given: Given
    scorer: Scorer
    tried: int = 0
    of_lines: dict[tuple[str, str], float] = field(default_factory=dict)
    watch: Callable[[Option], None] | None = None
    _at_pace: dict[float, _AtPace] = field(default_factory=dict)
    _places: dict[int, int] = field(default_factory=dict)
    _seated: dict[tuple[str, int, int], list[BoxFly]] = field(default_factory=dict)
    _candidates: dict[tuple[str, int, int, str, float], SeatCandidates] = field(default_factory=dict)
    _peaks: FloatArray | None = None
    _tippet: Tippet | None = None
    _water: Water | None = None

    # What may be used.

    def lines(self, method: Method) -> list[Line]:
        """Return the lines that a method can be fished with."""
        given, pinned = self.given, self.given.pins.line_name
        fitting = [
            line
            for line in given.box.lines
            if method.takes(line)
            and (line.name == pinned or (pinned is None and given.box.suits_rod(line) and method.suits_line(given, line)))
        ]
        return fitting if given.thorough else fitting[:: -(-len(fitting) // FIRST_LINES) or 1]

    def no_line(self, method: Method) -> str:
        given = self.given
        taken = [line for line in given.box.lines if method.takes(line)]
        if not taken:
            return "No line in the box for it."
        if given.pins.line_name is not None:
            return "Not with the line you chose."
        return f"The rod is built for number {given.box.rod_number}; no line for it is within one of that."

    def seated(self, method: Method, flies: int, seat: int) -> list[BoxFly]:
        """Return the flies that may sit on a seat of a team of so many."""
        key = (method.key, flies, seat)
        if key not in self._seated:
            rule, pinned = method.seats(flies)[seat], self.given.pins.fly_name if seat == 0 else None
            self._seated[key] = [fly for fly in self.given.flies if rule(fly) and pinned in {None, fly.name}]
        return self._seated[key]

    def at_pace(self, speed_mps: float) -> _AtPace:
        """Return what the flies of the box are worth at a pace."""
        pace = round(speed_mps, 4)
        if pace not in self._at_pace:
            ground, matcher = self.scorer.ground(), self.scorer.matcher
            if self._peaks is None:
                takes = ground.takes.reshape(len(ground.takes), len(matcher.reaches_m), -1)
                self._peaks = np.einsum("zrc,fc->rfz", takes, ground.q)
            answer = matcher.answers(self.given.flies, pace)
            peaks = self._peaks[answer.reach_index, np.arange(len(ground.q))]
            self._at_pace[pace] = _AtPace(answer, np.einsum("bf,bfz->bz", answer.weight, peaks).max(axis=1))
        return self._at_pace[pace]

    def place(self, fly: BoxFly) -> int:
        """Return which fly of the box it is."""
        if not self._places:
            # In one go: another thread may be asking.
            self._places = {id(fly): i for i, fly in enumerate(self.given.flies)}
        return self._places[id(fly)]

    def seat_candidates(self, method: Method, flies: int, seat: int, kind: str, speed_mps: float) -> SeatCandidates:
        """Return the likeliest flies of a class for a seat, with what they are worth on each food at this pace."""
        key = (method.key, flies, seat, kind, round(speed_mps, 4))
        if key not in self._candidates:
            box = self.at_pace(speed_mps)
            there = [fly for fly in self.seated(method, flies, seat) if fly.body_class == kind]
            likely = sorted(there, key=lambda fly: -box.potential[self.place(fly)])[:CANDIDATES]
            who = np.array([self.place(fly) for fly in likely], dtype=np.int64)
            lures = np.array([int(fly.style in LURE_STYLES) for fly in likely], dtype=np.int64)
            weight, index = box.answer.weight[who], box.answer.reach_index[who]
            self._candidates[key] = SeatCandidates(
                flies=tuple(likely), weight=weight, index=index, lures=lures, who=who, stand_in=_middle(there)
            )
        return self._candidates[key]

    def team_shapes(self, method: Method, flies: int, speed_mps: float = 0.1) -> list[tuple[str, ...]]:
        """Return the classes of flies worth trying in a team of so many, from the point up, the likeliest first."""
        each: list[list[str]] = []
        potential = self.at_pace(speed_mps).potential
        for seat in range(flies):
            best: dict[str, float] = {}
            for fly in self.seated(method, flies, seat):
                kind = fly.body_class
                best[kind] = max(best.get(kind, 0.0), float(potential[self.place(fly)]))
            order = _contrasted(sorted(best, key=lambda kind: -best[kind]))
            most = max(best.values(), default=0.0)
            each.append([kind for kind in order if best[kind] >= WORTH_TRYING * most])
        if not all(each):
            return []
        if flies == 1:
            return [(point,) for point in each[0]]
        upper = range(min(MOST_UPPER, max(len(kinds) for kinds in each[1:])))
        return [(point, *(kinds[min(k, len(kinds) - 1)] for kinds in each[1:])) for k in upper for point in each[0]]

    # Weighing one way.

    def weigh(self, method: Method, way: Way) -> Weighed | None:
        """Return a way with the best team on its path, or None where it cannot be tied or done so."""
        speed = way.action.pace_mps
        n = len(way.classes)
        candidates = [self.seat_candidates(method, n, seat, kind, speed) for seat, kind in enumerate(way.classes)]
        if not all(seat_candidates.flies for seat_candidates in candidates) or not self.allowed_still(way):
            return None
        stand_ins = tuple(seat_candidates.stand_in for seat_candidates in candidates if seat_candidates.stand_in is not None)
        option = self.tied(method, way, stand_ins, self._usual_tippet())
        if option is None:
            return None
        exposure = self.run(option)
        flies, worth = self.best_team(candidates, exposure, option)
        costs = self.scorer.costs(method, (), way.action, exposure)
        return Weighed(way, flies, worth * costs * self.scorer.lean(way.action))

    def allowed_still(self, way: Way) -> bool:
        """Return whether a buoyant fly is not fished still where that is not allowed."""
        still = way.action.pace_mps < float(STILL_MPS)
        return self.given.rules.static_buoyant or not (still and FLOATING_CLASSES & set(way.classes))

    def tied(self, method: Method, way: Way, flies: Sequence[BoxFly], tippet: Tippet) -> Option | None:
        """Return a way as it is tied with these flies."""
        rig = method.tied(self.given, way, flies, tippet)
        return None if rig is None else Option(method, rig, tuple(flies), way.action)

    def run(self, option: Option) -> Exposure:
        self.tried += 1
        if self.watch is not None:
            self.watch(option)
        if self._water is None:
            self._water = water_for(self.given.picture, self.given.cast_m)
        return quick_exposure(option.rig, option.action, self._water)

    def _usual_tippet(self) -> Tippet:
        if self._tippet is None:
            self._tippet = tippet_for([Tied(10)], secchi_m=3.0, brightness=0.3)
        return self._tippet

    def best_team(
        self, candidates: Sequence[SeatCandidates], exposure: Exposure, option: Option
    ) -> tuple[tuple[BoxFly, ...], float]:
        """Return the best team on a path, by a beam over its seats, and what it offers less what its flies cost."""
        scorer = self.scorer
        seen = scorer.seen(exposure, option.flies, option.action)
        most = max(len(seat_candidates.flies) for seat_candidates in candidates)
        seats, lures, worth = seat_teams(
            seen,
            np.stack([_filled(seat_candidates.weight, most, 0.0) for seat_candidates in candidates]),
            np.stack([_filled(seat_candidates.index, most, 0) for seat_candidates in candidates]),
            np.stack([_filled(seat_candidates.lures, most, 0) for seat_candidates in candidates]),
            np.stack([_filled(seat_candidates.who, most, -1) for seat_candidates in candidates]),
            np.stack([scorer.of_numbers(n + 1, np.arange(len(candidates) + 1)) for n in range(len(candidates))]),
            scorer.ground().q,
            scorer.j.second_fly,
            BEAM,
        )
        if len(seats) == 0:
            return (), 0.0
        teams = [tuple(seat_candidates.flies[i] for seat_candidates, i in zip(candidates, team, strict=True)) for team in seats]
        if not any(0 < n < len(candidates) for n in lures):
            return teams[0], float(worth[0])
        # Where a lure and a natural go together, one hands fish to the other.
        judged = [
            self._handed_on(seen, team, option) * float(scorer.of_numbers(len(candidates), n))
            for team, n in zip(teams, lures, strict=True)
        ]
        top = int(np.argmax(judged))
        return teams[top], judged[top]

    def _handed_on(self, seen: FloatArray, team: Sequence[BoxFly], option: Option) -> float:
        offered = self.scorer.each(seen, self.scorer.answers(team, option.action))
        return self.scorer.union(offered, seen, team)

    def best_of(self, method: Method, ways: Iterable[Way]) -> list[Weighed]:
        """Return ways that can be done, the best first."""
        weighed = [one for one in (self.weigh(method, way) for way in ways) if one is not None and one.flies]
        for one in weighed:
            key = (one.way.line.name, method.key)
            self.of_lines[key] = max(self.of_lines.get(key, 0.0), one.takes_ph)
        return sorted(weighed, key=lambda one: -one.takes_ph)

    # What is likely, tied with its own flies.

    def real(self, method: Method, way: Way, flies: Sequence[BoxFly]) -> Real | None:
        """Return a way tied with these flies and their own tippet, or None where it cannot be."""
        option = self.tied(method, way, flies, self.given.tippet(flies, floating=method.greased))
        if option is None or not self.allowed_still(way):
            return None
        return Real(way, option, self.scorer.takes_ph(option, self.run(option)) * self.scorer.lean(way.action))

    def settled(self, method: Method, likely: Sequence[Weighed], most: int) -> Real | None:
        """Return the best of the likeliest ways once they are tied with their own flies, no two with like flies on a line.

        On its own path a team is once more weighed against flies that sink alike.
        """
        found: list[Real] = []
        seen: set[tuple[str, tuple[str, ...]]] = set()
        for one in sorted(likely, key=lambda one: -one.takes_ph):
            key = (one.way.line.name, one.way.classes)
            if key in seen or len(seen) >= most:
                continue
            seen.add(key)
            first = self.real(method, one.way, one.flies)
            if first is not None:
                found.append(first)
        best = max(found, key=lambda one: one.takes_ph, default=None)
        return None if best is None else self.reseated(method, best)

    def reseated(self, method: Method, real: Real) -> Real:
        """Return a way with the flies that do best on the path of those it has."""
        flies, speed = real.option.flies, real.way.action.pace_mps
        candidates = [self.seat_candidates(method, len(flies), i, fly.body_class, speed) for i, fly in enumerate(flies)]
        if not all(seat_candidates.flies for seat_candidates in candidates):
            return real
        other, _ = self.best_team(candidates, self.run(real.option), real.option)
        changed = self.real(method, real.way, other) if other and other != flies else None
        return changed if changed is not None and changed.takes_ph > real.takes_ph else real


def _contrasted(kinds: Sequence[str]) -> list[str]:
    """Return classes with the best that floats and the best that sinks in front: their paths differ most."""
    other = next((kind for kind in kinds if (kind in FLOATING_CLASSES) != (kinds[0] in FLOATING_CLASSES)), None)
    return [*kinds[:1], *([] if other is None else [other]), *(kind for kind in kinds[1:] if kind != other)]


def _middle(flies: Sequence[BoxFly]) -> BoxFly | None:
    order = sorted(flies, key=lambda fly: (fly.sink_mps, fly.name))
    return order[len(order) // 2] if order else None


def _filled(values: npt.NDArray[Any], rows: int, filler: float) -> npt.NDArray[Any]:
    """Return an array with rows of `filler` after its own, up to so many."""
    if len(values) == rows:
        return values
    return np.concatenate((values, np.full((rows - len(values), *values.shape[1:]), filler, dtype=values.dtype)))
