"""Waters to search in with a hidden truth: what may be fished there, where the fish are, and what a choice then brings."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime
from functools import cache
from typing import Any

import numpy as np

from stillthread.api import (
    ANY,
    KNOCK,
    TAKE,
    USUAL_RATE_PMIN,
    Costs,
    Event,
    Grid,
    Presentation,
    Reading,
    Table,
    TiedFly,
    Truth,
    choose,
    grid_of,
    read_water,
    search_table,
)
from tests.planning import BOX, FREE
from tests.quick_search import Options, answered, shared
from tests.rigs import SUMMER_TIME, conditions

DEEPEST_M, DAY_MIN, CLASSES, REACH_M = 6.0, 240.0, 4, 0.9
FIRST_TEAM_MIN, MOVE_MIN, TEAM_PACE = 3.0, 15.0, 0.95
KINDS = ("steady", "moving", "two bands", "selective", "low", "barren", "patchy", "eighth")
EIGHTH = 8.0  # of days on which the plan itself expects an eighth of what a fair day has


class World:
    """What can be fished, and what truths make of it. `base` is the grid of every day, whatever is believed on it."""

    def __init__(self, ways: list[Presentation], base: Grid, *, own_teams: bool = False) -> None:
        self.options = Options(ways, base, Costs())
        self.singles = np.array([i for i, one in enumerate(ways) if len(one.flies) == 1] or list(range(len(ways))))
        self.base = base
        # Of a plan's own ways hardly any has one fly: there he who knows takes the best of all.
        self.known = np.arange(len(ways)) if own_teams else self.singles
        self.deepest_m = base.centres_m[-1] + 0.5 * base.step_m

    def met(self, o: int, truth: Truth, at_min: float) -> tuple[Any, tuple[bool, ...]]:
        """Return interested fish by fly and span of one cast, for the rate of the truth, and which flies they want."""
        minutes, depths = self.options.spans[o]
        one = self.options.ways[o]
        wanted = tuple(truth.fly in (ANY, fly.fly_class) for fly in one.flies)
        alike = wanted if any(wanted) else (True,) * len(wanted)
        reached = answered(truth.centre_m(at_min), truth.reach_m, depths)
        met = shared(reached, alike)
        if truth.other_m is not None:
            met = 0.5 * (met + shared(answered(truth.other_m, truth.reach_m, depths), alike))
        return one.share * truth.rate_at(at_min) * minutes * met, wanted

    def takes(self, o: int, truth: Truth, at_min: float) -> float:
        met, wanted = self.met(o, truth, at_min)
        return float(met.sum(axis=1) @ [TAKE[w] for w in wanted])

    def cast(self, o: int, truth: Truth, at_min: float, luck: np.random.Generator) -> tuple[float, list[Event]]:
        """Return takes expected of a cast, and what comes in it."""
        met, wanted = self.met(o, truth, at_min)
        depths = self.options.spans[o][1]
        came: list[Event] = []
        for took, weight in ((True, TAKE), (False, KNOCK)):
            mean = met * np.array([[weight[w]] for w in wanted])
            for fly, span in np.argwhere(luck.random(mean.shape) < -np.expm1(-mean)):
                came.append(Event(max(float(depths[fly, span] + luck.normal(0.0, 0.2)), 0.0), took, int(fly)))
        return float(met.sum(axis=1) @ [TAKE[w] for w in wanted]), came

    def clairvoyant(self, truth: Truth) -> float:
        """Return the takes of one who knows all: the best that is known here, minute by minute, changes for nothing."""
        at, total = 0.0, 0.0
        known: dict[tuple[float, float], float] = {}
        if truth.empty:
            at, truth = MOVE_MIN, replace(truth, empty=False)
        while at < DAY_MIN - 1e-9:
            here = (truth.centre_m(at), truth.rate_at(at))
            if here not in known:
                of = [self.takes(int(o), truth, at) / float(self.options.minutes[o]) for o in self.known]
                known[here] = max(of)
            total += known[here]
            at += 1.0
        return total


def truth_of(kind: str, deepest_m: float, rng: np.random.Generator, begin_m: float | None = None) -> Truth:
    low, high = 0.1 * deepest_m, 0.95 * deepest_m
    begin = float(rng.uniform(low, high)) if begin_m is None else begin_m
    end, other = begin, None
    step = float(rng.uniform(1.5, 3.0) * rng.choice((-1, 1))) * min(1.0, deepest_m / 6.0)
    beside = begin + step if low <= begin + step <= high else min(max(begin - step, low), high)
    if kind == "moving":
        end = beside
    if kind == "two bands":
        other = beside
    rate = float(np.clip(rng.lognormal(math.log(0.16), 0.8), 0.028, 0.9))
    if kind == "low":
        rate = float(rng.uniform(0.02, 0.05))
    if kind == "eighth":
        rate /= EIGHTH
    picky = kind == "selective" or rng.random() < 0.4
    fly = int(rng.integers(1, CLASSES + 1)) if picky else ANY
    reach = REACH_M * float(rng.lognormal(0.0, 0.3))
    return Truth(kind, begin, end, reach, rate, fly, other, kind == "patchy", kind == "barren")


def prior_of(prior: str, truth: Truth, deepest_m: float, rng: np.random.Generator) -> Grid:
    depths = [0.1 * i + 0.05 for i in range(int(10 * deepest_m))]
    wanted = [1.0] * CLASSES
    if prior == "flat":
        return grid_of(depths, [1.0] * len(depths), REACH_M, deepest_m, wanted)
    if prior == "fair":
        sd = float(rng.uniform(0.6, 1.5))
        mean = truth.begin_m + float(rng.normal(0.0, sd))
    else:
        far = rng.random() < 0.5
        sd = 1.0 if far else 0.35
        off = (float(rng.uniform(2.0, 3.0)) if far else 1.5) * float(rng.choice((-1, 1)))
        mean = truth.begin_m + off if 0.2 <= truth.begin_m + off <= deepest_m - 0.2 else truth.begin_m - off
    if truth.fly:
        wanted[truth.fly - 1] = 2.0 if prior == "fair" else 0.5
    chance = [math.exp(-0.5 * ((z - mean) / sd) ** 2) for z in depths]
    return grid_of(depths, chance, REACH_M, deepest_m, wanted)


def _named(line: str, count_s: float, flies: Sequence[int]) -> str:
    return f"{line} {count_s:g} {'+'.join(map(str, flies))}"


def drawn_ways() -> list[Presentation]:
    """Return casts with four lines and some counts, floats at ten depths: one fly of each class, or two of different ones."""
    found = []
    sets = [(k,) for k in range(1, CLASSES + 1)]
    sets += [(a, b) for a in range(1, CLASSES + 1) for b in range(1, CLASSES + 1) if a != b]  # type: ignore[misc]
    lines = {"floating": (0.02, (0, 20)), "intermediate": (0.04, (5, 15, 30, 50)), "type 3": (0.075, (10, 20, 32, 45, 60)),
             "type 5": (0.125, (8, 14, 20, 28, 36, 44))}  # fmt: skip
    for flies in sets:
        tied = tuple(TiedFly(f"class {k}", k) for k in flies)
        pace = 1.0 if len(flies) == 1 else TEAM_PACE
        for line, (sinks, counts) in lines.items():
            for count in counts:
                deep = min(sinks * count + 0.2, DEEPEST_M - 0.2)
                times, path = (0.0, count + 1e-3, count + 40.0, count + 50.0), (0.0, deep, 0.85 * deep, 0.1)
                paths = tuple(tuple(max(z - 0.15 * i, 0.0) for z in path) for i in range(len(flies)))
                minutes = (count + 65.0) / 60.0 / pace
                found.append(
                    Presentation(
                        key=_named(line, count, flies),
                        method="cast",
                        line=line,
                        flies=tied,
                        minutes=minutes,
                        time_s=times,
                        depth_m=paths,
                    )
                )
        for k in range(1, 12):
            depth = 0.5 * k
            if len(flies) > 1 and depth < 1.5:
                continue
            paths = tuple((depth - i, depth - i) for i in range(len(flies)))
            key = _named("float", depth, flies)
            found.append(
                Presentation(
                    key=key,
                    method="float",
                    line="floating",
                    flies=tied,
                    minutes=3.25 / pace,
                    time_s=(0.0, 180.0),
                    depth_m=paths,
                    float_m=depth,
                )
            )
    return found


@cache
def drawn(*, teams: bool = True, rate_pmin: float = USUAL_RATE_PMIN) -> World:
    """Return the water of the model: six metres, ways to fish drawn with the ruler, so many fish a minute expected."""
    flat = prior_of("flat", truth_of("steady", DEEPEST_M, np.random.default_rng(0)), DEEPEST_M, np.random.default_rng(0))
    ways = [one for one in drawn_ways() if teams or len(one.flies) == 1]
    return World(ways, replace(flat, rate_pmin=rate_pmin))


@cache
def planned() -> World:
    """Return a real plan's own table: a reservoir in June, 9 m deep where it is fished, the whole starter box."""
    at = datetime(2026, 6, 14, 9, 0, tzinfo=SUMMER_TIME)
    readings = tuple(Reading(d, t) for d, t in ((0.0, 16.0), (3.0, 15.6), (6.0, 12.5), (9.0, 10.0)))
    water = read_water(conditions(at=at, readings=readings, bottom_depth_m=9.0))
    table = Table.of(search_table(choose(water, BOX, FREE))[0])
    return World(list(table.options), table.grid, own_teams=True)
