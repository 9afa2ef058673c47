"""The belief and the move once more, in arrays: an independent check of `stillthread.search`, and quick enough for many days."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from stillthread.search import belief as of_belief
from stillthread.search import policy as of_policy
from stillthread.search.grid import RATE_PRIOR, RATES_PMIN, Grid
from stillthread.search.presentation import EVENT_SD_M, KNOCK, TAKE, Costs, Presentation, spans_of

Floats = NDArray[np.float64]
KINDS = (of_belief.STILL, of_belief.DRIFTING, of_belief.SCHOOLS)
RATES = np.array(RATES_PMIN)
OF_FISH = np.array([0.0, *RATE_PRIOR[1:]]) / sum(RATE_PRIOR[1:])
FLIES = 4


def answered(centre: Any, reach: Any, depth: Any) -> Floats:
    """Return how surely fish answer a fly, for arrays that broadcast."""
    off = np.where(depth <= centre, (centre - depth) / reach, (centre - depth) / 0.15)
    return np.asarray(np.exp(-off * off))


def shared(reached: Floats, wanted: Sequence[bool]) -> Floats:
    """Return which fly is answered; the flies are the first axis."""
    of = np.array(wanted if any(wanted) else [True] * len(wanted)).reshape(-1, *(1,) * (reached.ndim - 1))
    first, rest = np.where(of, reached, -1.0), np.where(of, -1.0, reached)
    best = first.max(axis=0)
    shares = np.where((np.arange(len(reached)).reshape(of.shape) == first.argmax(axis=0)) & of, best, 0.0)
    if not of.all():
        more = np.maximum(rest.max(axis=0) - best, 0.0)
        shares += np.where((np.arange(len(reached)).reshape(of.shape) == rest.argmax(axis=0)) & ~of, more, 0.0)
    return np.asarray(shares)


@dataclass
class Options:
    """Presentations against cells, as arrays: events, takes and events on each fly by option, class wanted and cell."""

    ways: list[Presentation]
    grid: Grid
    costs: Costs

    def __post_init__(self) -> None:
        n, classes, cells = len(self.ways), self.grid.classes + 1, len(self.grid.cells)
        self.minutes = np.array([one.minutes for one in self.ways])
        self.takes, self.events = np.zeros((n, classes, cells)), np.zeros((n, classes, cells))
        self.on = np.zeros((n, FLIES, classes, cells))
        self.cost = np.array([[self.costs.between(a, b) for b in self.ways] for a in self.ways])
        self.spans = [
            (np.array([m for m, _ in spans]), np.array([d for _, d in spans]).T) for spans in map(spans_of, self.ways)
        ]
        self.wanted = [[tuple(k in (0, fly.fly_class) for fly in one.flies) for k in range(classes)] for one in self.ways]
        self._met: dict[tuple[int, tuple[bool, ...]], Floats] = {}
        for o in range(n):
            for k, wanted in enumerate(self.wanted[o]):
                met = self.ways[o].share * self.met(o, wanted).sum(axis=1)
                for i, w in enumerate(wanted):
                    self.takes[o, k] += TAKE[w] * met[i]
                    self.on[o, i, k] = (TAKE[w] + KNOCK[w]) * met[i]
        self.events = self.on.sum(axis=1)
        self.flat_takes, self.flat_events = self.takes.reshape(n, -1), self.events.reshape(n, -1)

    def met(self, o: int, wanted: tuple[bool, ...]) -> Floats:
        """Return minutes in which a fish would answer, by fly, span and cell."""
        if (o, wanted) not in self._met:
            minutes, depths = self.spans[o]
            centre, reach = (np.array(v)[None, None, :] for v in zip(*self.grid.cells, strict=True))
            self._met[o, wanted] = minutes[None, :, None] * shared(answered(centre, reach, depths[:, :, None]), wanted)
        return self._met[o, wanted]

    def likely(self, o: int, events: Sequence[tuple[float, bool, int | None]]) -> Floats:
        """Return the likelihood of one cast by class, cell and rate; events are depth, whether a take, and the fly."""
        found: Floats = np.exp(-self.events[o][:, :, None] * RATES)
        stray = of_belief.STRAY_PMIN * self.minutes[o] / of_belief.STRAY_OVER_M
        for depth, took, fly in events:
            off = (depth - self.spans[o][1]) / EVENT_SD_M
            near = np.exp(-0.5 * off * off) / (EVENT_SD_M * math.sqrt(2.0 * math.pi))
            for k, wanted in enumerate(self.wanted[o]):
                weight = TAKE if took else KNOCK
                flies = range(len(wanted)) if fly is None else [fly]
                met = self.met(o, wanted)
                g = self.ways[o].share * sum(weight[wanted[i]] * (near[i] @ met[i]) for i in flies)
                found[k] *= np.asarray(g)[:, None] * RATES + stray
        return found


class Belief:
    """The three kinds of day by class, cell and rate."""

    def __init__(self, grid: Grid) -> None:
        self.centres, self.step_m = len(grid.centres_m), grid.step_m
        self.prior = np.array(grid.prior()).reshape(grid.classes + 1, len(grid.cells), len(RATES))
        self.of = np.stack([of_belief.WEIGHTS[kind] * self.prior for kind in KINDS])

    def wait(self, minutes: float) -> None:
        hours = minutes / 60.0
        for kind, fade_ph in of_belief.RATE_LEAK_PH.items():
            p = self.of[KINDS.index(kind)]
            share = 1.0 - math.exp(-fade_ph * hours)
            back = share * p[:, :, 1:].sum(axis=2)
            p[:, :, 1:] = (1.0 - share) * p[:, :, 1:] + back[:, :, None] * OF_FISH[1:]
        p = self.of[KINDS.index(of_belief.DRIFTING)]
        hop = min(0.3, of_belief.WALK_M2PH * hours / (2.0 * self.step_m**2))
        by = p.reshape(p.shape[0], self.centres, -1)
        up, down = np.concatenate([by[:, 1:], by[:, -1:]], axis=1), np.concatenate([by[:, :1], by[:, :-1]], axis=1)
        by[:] = (1.0 - 2.0 * hop) * by + hop * (up + down)
        share = 1.0 - math.exp(-of_belief.LEAK_PH * hours)
        back = share * p[:, :, 1:].sum() / self.prior[:, :, 1:].sum()
        p[:, :, 1:] = (1.0 - share) * p[:, :, 1:] + back * self.prior[:, :, 1:]

    def learn(self, likely: Floats) -> None:
        self.of *= likely
        self.of /= self.of.sum()

    def elsewhere(self) -> None:
        for p in self.of:
            total, empty = p.sum(axis=2), p[:, :, 0].copy()
            p[:, :, 0] = RATE_PRIOR[0] * total
            p[:, :, 1:] = (1.0 - RATE_PRIOR[0]) * (p[:, :, 1:] + empty[:, :, None] * OF_FISH[1:])
        self.of /= self.of.sum()

    def joint(self) -> Floats:
        return np.asarray(self.of.sum(axis=0))


@dataclass(frozen=True, slots=True)
class Move:
    best: int
    change: bool
    elsewhere: bool
    value: Floats


def next_move(
    belief: Belief,
    options: Options,
    now: int | None,
    *,
    left_min: float,
    since_event_min: float | None,
    here_min: float = 0.0,
) -> Move:
    """Return the move, as `policy.next_move` has it."""
    joint = belief.joint()
    interest = joint @ RATES
    by_option, minutes = options.flat_takes, options.minutes
    rate = by_option @ interest.ravel() / minutes
    looking = since_event_min is not None and since_event_min <= of_policy.SILENCE_MIN
    horizon = max(min(left_min, of_policy.LOOK_MIN if looking else of_policy.GREEDY_MIN), 1.0)
    cost = np.zeros(len(minutes)) if now is None else options.cost[now]
    value = rate * np.maximum(horizon - cost, 0.0)
    if looking:
        tells = -np.expm1(-(options.flat_events @ interest.ravel())) / (minutes + cost)
        chosen = {*np.argsort(-value, kind="stable")[: 2 * of_policy.CANDIDATES].tolist(),
                  *np.argsort(-tells, kind="stable")[: of_policy.CANDIDATES].tolist()}  # fmt: skip
        if now is not None:
            chosen.add(now)
        ahead = np.full(len(minutes), -np.inf)
        shown: list[Floats] = []
        of: list[int] = []
        for o in sorted(chosen):
            if horizon - cost[o] - minutes[o] <= 0.0:
                ahead[o] = value[o]
                continue
            ahead[o] = rate[o] * minutes[o]
            met = options.events[o]
            quiet = (joint * np.exp(-met[:, :, None] * RATES)) @ RATES
            came = (interest - quiet) / np.maximum(met, 1e-300)
            shown += [quiet, *(came * options.on[o, i] for i in range(len(options.ways[o].flies)))]
            of += [o] * (1 + len(options.ways[o].flies))
        if of:
            then = (by_option @ np.stack(shown).reshape(len(of), -1).T) / minutes[:, None]
            left = (horizon - cost - minutes)[of]
            best_after = (then * np.maximum(left[None, :] - options.cost[of].T, 0.0)).max(axis=0)
            np.add.at(ahead, of, best_after)
        value = ahead
    best = int(np.argmax(value))
    below = of_policy.NO_CHANGE_BELOW
    if now is not None and cost[best] == 0.0:
        below = min(below, of_policy.FREE_ABOVE * float(value[now]))
    change = now is None or (best != now and float(value[best] - value[now]) > below)
    away = False
    if here_min >= of_policy.SETTLED_MIN and joint[:, :, 0].sum() > of_policy.EMPTY:
        other = Belief.__new__(Belief)
        other.of = belief.of.copy()
        other.elsewhere()
        fresh = float((by_option @ (other.joint() @ RATES).ravel() / minutes).max())
        away = fresh * (left_min - 15.0) > float(rate.max()) * left_min
    return Move(best, change, away, value)
