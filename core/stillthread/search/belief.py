"""What is so, after every cast: exact on the grid, in three kinds of day at once."""

from __future__ import annotations

import math
from collections.abc import Sequence
from copy import copy
from dataclasses import dataclass
from operator import mul

from stillthread.search.grid import ANY, RATE_PRIOR, RATE_TIMES, Grid
from stillthread.search.presentation import EVENT_SD_M, TAKE, Exposed

STILL, DRIFTING, SCHOOLS = "still", "drifting", "schools"
# ours, bounds 0 to 1: they stay, go up or down with the day, or come and go; set on the bench of docs/search.md
WEIGHTS = {STILL: 0.35, DRIFTING: 0.45, SCHOOLS: 0.20}
WALK_M2PH = 0.75  # ours, bounds 0.2 to 2: fish that move go about a metre in an hour
LEAK_PH = 0.1  # ours, bounds 0 to 0.5: of belief, forgotten in an hour
RATE_LEAK_PH = {DRIFTING: 0.3, SCHOOLS: 2.0}  # ours, bounds 0.1 to 4: schools come and go in half an hour
STRAY_TAKES, STRAY_KNOCKS, STRAY_EARLY_KNOCKS = 0.03, 0.08, 0.6  # ours, bounds 0 to 0.1, 0.2 and 1
"""Of the fish that the plan expects, how many come from anywhere: to take, to knock, and to knock as the fly lands. With them
one odd fish empties no depth."""
EARLY_S = 5.0  # ours, bounds 2 to 10: a knock sooner is the splash, weed or a small fish at the top
HOP = 0.25  # ours, bounds 0.1 to 0.5: of a cell's fish in one step; a longer wait takes several
_R = len(RATE_TIMES)
_FISH = math.fsum(RATE_PRIOR[1:])
_OF_FISH = (0.0, *(r / _FISH for r in RATE_PRIOR[1:]))

State = list[list[float]]


@dataclass(frozen=True, slots=True)
class Event:
    """A take (landed or lost too) or a knock, with the fly's depth at that moment, known to `sd_m` [m], which fly where it is
    known, and whether it came right as the fly landed."""

    depth_m: float
    took: bool
    fly: int | None = None
    sd_m: float = EVENT_SD_M
    early: bool = False

    @property
    def stray(self) -> float:
        """How many such come from anywhere, as a share of what the plan expects."""
        return STRAY_TAKES if self.took else STRAY_EARLY_KNOCKS if self.early else STRAY_KNOCKS


class SearchBelief:
    """The chance of every hypothesis on a grid, in each kind of day."""

    def __init__(self, grid: Grid) -> None:
        self.grid = grid
        self._prior = grid.prior()
        self.of: dict[str, State] = {
            kind: [[weight * p for p in row] for row in self._prior] for kind, weight in WEIGHTS.items()
        }

    def copy(self) -> SearchBelief:
        other = copy(self)
        other.of = {kind: [list(row) for row in state] for kind, state in self.of.items()}
        return other

    def wait(self, minutes: float) -> None:
        """Let time pass: where they are may have changed in one kind of day, how many there are in another; never both nothing
        and emptiness, which does not fill."""
        if minutes <= 0.0:
            return
        hours = minutes / 60.0
        for kind, fade_ph in RATE_LEAK_PH.items():
            self.of[kind] = [_refilled(row, 1.0 - math.exp(-fade_ph * hours)) for row in self.of[kind]]
        self.of[DRIFTING] = self._leaked(self._walked(self.of[DRIFTING], hours), 1.0 - math.exp(-LEAK_PH * hours))

    def cast(self, exposed: Exposed, events: Sequence[Event] = ()) -> None:
        """Learn from one cast: what came, and by what did not come, where they are not."""
        likely: dict[tuple[bool, ...], list[float]] = {}
        for fly in range(self.grid.classes + 1):
            wanted = exposed.wanted(fly)
            if wanted not in likely:
                likely[wanted] = _likelihood(exposed, wanted, events, self.grid)
            for state in self.of.values():
                state[fly] = [p * x for p, x in zip(state[fly], likely[wanted], strict=True)]
        self._to_one()

    def seen(self, depth_m: float, sd_m: float = 0.4, doubt: float = 0.3) -> None:
        """Learn that fish are at a depth: seen, on a sounder, or told; `doubt` that it says nothing of these."""
        near = [doubt + (1.0 - doubt) * math.exp(-0.5 * ((c - depth_m) / sd_m) ** 2) for c, _ in self.grid.cells]
        weight = [n * (doubt if r == 0 else 1.0) for n in near for r in range(_R)]
        for state in self.of.values():
            for fly, row in enumerate(state):
                state[fly] = [p * w for p, w in zip(row, weight, strict=True)]
        self._to_one()

    def catching(self, doubt: float) -> None:
        """Learn that somebody near is catching, nobody knows how: not empty, and rather many than few."""
        low = 1.0 / (_R - 1)
        likely = [doubt, *(doubt + (1.0 - doubt) * min(1.0, 0.5 + r * low) for r in range(1, _R))]
        for state in self.of.values():
            for fly, row in enumerate(state):
                state[fly] = [p * likely[i % _R] for i, p in enumerate(row)]
        self._to_one()

    def takes_class(self, fly: int, doubt: float) -> None:
        """Learn that another's fish took a fly of this class."""
        for state in self.of.values():
            for wanted, row in enumerate(state):
                share = TAKE[wanted in (ANY, fly)] / TAKE[True]
                state[wanted] = [(doubt + (1.0 - doubt) * share) * p for p in row]
        self._to_one()

    def renewed(self, share: float, grid: Grid | None = None) -> None:
        """Let a share of what is believed go back to what a reading says: the last one, or a new one on the same cells.

        What was learnt goes on, and what no longer holds fades.
        """
        if grid is not None:
            self.grid, self._prior = grid, grid.prior()
        for kind, state in self.of.items():
            self.of[kind] = [
                [(1.0 - share) * p + share * WEIGHTS[kind] * q for p, q in zip(row, before, strict=True)]
                for row, before in zip(state, self._prior, strict=True)
            ]
        self._to_one()

    def shift(self, cells: int) -> None:
        """Move every centre by whole cells, down where positive: the light has moved what they are expected to follow."""
        width, centres = len(self.grid.reaches_m) * _R, len(self.grid.centres_m)
        for state in self.of.values():
            for fly, row in enumerate(state):
                moved = [0.0] * len(row)
                for c in range(centres):
                    to = min(max(c + cells, 0), centres - 1)
                    for k in range(width):
                        moved[to * width + k] += row[c * width + k]
                state[fly] = moved

    def elsewhere(self) -> None:
        """Come to another place: how deep and which fly is the lake's, whether any are there is the place's."""
        for state in self.of.values():
            for row in state:
                for at in range(0, len(row), _R):
                    all_of = math.fsum(row[at : at + _R])
                    empty = row[at]
                    row[at] = RATE_PRIOR[0] * all_of
                    for r in range(1, _R):
                        row[at + r] = (1.0 - RATE_PRIOR[0]) * (row[at + r] + empty * _OF_FISH[r])
        self._to_one()

    def interest(self) -> State:
        """Return by class of fly and cell the expected rate of interested fish [1/min]."""
        return interest(self.joint(), self.grid)

    def joint(self) -> State:
        """Return the chance of every hypothesis, whatever kind of day it is."""
        kinds = list(self.of.values())
        return [[sum(parts) for parts in zip(*(state[fly] for state in kinds), strict=True)] for fly in range(len(kinds[0]))]

    def kinds(self) -> dict[str, float]:
        """Return how likely each kind of day is."""
        return {kind: math.fsum(map(math.fsum, state)) for kind, state in self.of.items()}

    def _to_one(self) -> None:
        total = math.fsum(math.fsum(row) for state in self.of.values() for row in state)
        for state in self.of.values():
            for fly, row in enumerate(state):
                state[fly] = [p / total for p in row]

    def _walked(self, state: State, hours: float) -> State:
        hops = WALK_M2PH * hours / (2.0 * self.grid.step_m**2)
        steps = max(1, math.ceil(hops / HOP))
        hop = hops / steps
        width = len(self.grid.reaches_m) * _R
        last = len(self.grid.centres_m) * width - width
        for _ in range(steps):
            walked = []
            for row in state:
                up, down = row[width:] + row[last:], row[:width] + row[:last]
                walked.append([(1.0 - 2.0 * hop) * p + hop * (a + b) for p, a, b in zip(row, up, down, strict=True)])
            state = walked
        return state

    def _leaked(self, state: State, share: float) -> State:
        """Let a share of what is known of fish that are there go back to what was thought beforehand."""
        there = math.fsum(p for row in state for i, p in enumerate(row) if i % _R)
        prior = math.fsum(p for row in self._prior for i, p in enumerate(row) if i % _R)
        back = share * there / prior
        return [
            [(1.0 - share) * p + back * q if i % _R else p for i, (p, q) in enumerate(zip(row, before, strict=True))]
            for row, before in zip(state, self._prior, strict=True)
        ]


def interest(joint: State, grid: Grid) -> State:
    """Return by class of fly and cell the expected rate of interested fish [1/min]."""
    return [[math.fsum(map(mul, row[at : at + _R], grid.rates_pmin)) for at in range(0, len(row), _R)] for row in joint]


def _refilled(row: list[float], share: float) -> list[float]:
    out = list(row)
    for at in range(0, len(row), _R):
        back = share * math.fsum(row[at + 1 : at + _R])
        for r in range(1, _R):
            out[at + r] = (1.0 - share) * row[at + r] + back * _OF_FISH[r]
    return out


def _likelihood(exposed: Exposed, wanted: tuple[bool, ...], events: Sequence[Event], grid: Grid) -> list[float]:
    """Return by cell and rate how likely the cast was: nobody else came, and somebody came there."""
    one = exposed.one
    events_pr, _, _ = exposed.joint(wanted)
    found = [math.exp(-rate * s) for s in events_pr for rate in grid.rates_pmin]
    for event in events:
        at = exposed.at(event.depth_m, wanted, took=event.took, fly=event.fly, sd_m=event.sd_m)
        stray = event.stray * grid.rate_pmin * one.share * one.minutes / grid.deepest_m
        came = [rate * g + stray for g in at for rate in grid.rates_pmin]
        found = [p * c for p, c in zip(found, came, strict=True)]
    return found
