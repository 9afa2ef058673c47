"""The belief on its table of exposures against particles that meet the full simulator's own paths."""

from __future__ import annotations

import unittest
from dataclasses import dataclass
from datetime import datetime
from functools import cache

import numpy as np
from numpy.typing import NDArray

from stillthread.depth.picture import read_water
from stillthread.plan.casting_water import water_for
from stillthread.plan.choose import choose
from stillthread.plan.search_table.table import search_table
from stillthread.search.belief import STILL, Event, SearchBelief
from stillthread.search.day import Table
from stillthread.search.grid import RATE_TIMES, Grid
from stillthread.search.presentation import EVENT_SD_M, KNOCK, TAKE, Exposed
from stillthread.sinking.cast import CastResult
from stillthread.water.reading import Reading
from tests.planning import BOX, FREE
from tests.quick_search import answered, shared
from tests.rigs import SUMMER_TIME, conditions

PARTICLES, CASTS, LEAST_LEFT = 6000, 14, 100
FINE_M = 0.02
LAYERS_M = 0.1
"""What the table leaves out: depths in layers, centres in cells."""
Floats = NDArray[np.float64]


@cache
def day_in_june() -> tuple[Table, dict[str, CastResult]]:
    """Return a plan's table, and the unthinned run of every way in it."""
    at = datetime(2026, 6, 14, 9, 0, tzinfo=SUMMER_TIME)
    readings = tuple(Reading(d, t) for d, t in ((0.0, 16.0), (3.0, 15.6), (6.0, 12.5), (9.0, 10.0)))
    water = read_water(conditions(at=at, readings=readings, bottom_depth_m=9.0))
    plan = choose(water, BOX, FREE)
    told, ways = search_table(plan)
    fished = water_for(water, plan.scorer.given.cast_m)
    runs = {key: way.action.simulate(way.rig, fished) for key, way in list(ways.items())[::10]}
    return Table.of(told), runs


def fine(run: CastResult) -> tuple[Floats, Floats]:
    """Return a run as minutes at depths of every fly [m], to two centimetres, which is finer than any table."""
    step_min = np.diff(run.time_s) / 60.0
    depths = np.maximum(0.5 * (run.fly_depth_m[:, 1:] + run.fly_depth_m[:, :-1]), 0.0)
    layers, which = np.unique(np.round(depths / FINE_M), axis=1, return_inverse=True)
    return np.asarray(np.bincount(which.ravel(), step_min, layers.shape[1]), dtype=np.float64), FINE_M * layers


class Particles:
    """Truths drawn from the prior of one kind of day, between the cells; each is weighed by what it makes of every cast."""

    def __init__(self, grid: Grid, luck: np.random.Generator) -> None:
        prior = np.array(grid.prior()).reshape(grid.classes + 1, len(grid.centres_m), len(grid.reaches_m), len(RATE_TIMES))
        drawn = luck.choice(prior.size, PARTICLES, p=(prior / prior.sum()).ravel())
        fly, centre, reach, rate = np.unravel_index(drawn, prior.shape)
        self.fly = fly
        self.centre_m = np.array(grid.centres_m)[centre] + grid.step_m * luck.uniform(-0.5, 0.5, PARTICLES)
        self.reach_m = np.array(grid.reaches_m)[reach]
        self.rate = np.array(grid.rates_pmin)[rate]
        self.log_weight = np.zeros(PARTICLES)

    def meet(self, exposed: Exposed, path: tuple[Floats, Floats], events: list[Event]) -> None:
        one = exposed.one
        step_min, depths = path
        for k in np.unique(self.fly):
            mine = self.fly == k
            wanted = exposed.wanted(int(k))
            reached = answered(self.centre_m[mine][None, None, :], self.reach_m[mine][None, None, :], depths[:, :, None])
            met = one.share * step_min[None, :, None] * shared(reached, wanted)
            takes = np.array([TAKE[w] for w in wanted])
            knocks = np.array([KNOCK[w] for w in wanted])
            rate = self.rate[mine]
            self.log_weight[mine] -= rate * np.einsum("f,ftp->p", takes + knocks, met)
            for event in events:
                near = np.exp(-0.5 * ((event.depth_m - depths) / EVENT_SD_M) ** 2) / (EVENT_SD_M * np.sqrt(2.0 * np.pi))
                came = np.einsum("f,ft,ftp->p", takes if event.took else knocks, near, met)
                stray = event.stray * exposed.grid.rate_pmin * one.share * one.minutes / exposed.grid.deepest_m
                self.log_weight[mine] += np.log(rate * came + stray)

    @property
    def weight(self) -> Floats:
        weight = np.exp(self.log_weight - self.log_weight.max())
        return np.asarray(weight / weight.sum())


@dataclass(frozen=True, slots=True)
class Off:
    """How far the belief of a day is from the particles': of the mean depth [m], and the most of the chance above any depth.

    `noise_m` is what so many particles leave open of their own mean: one standard error.
    """

    mean_m: float
    chance: float
    noise_m: float


def off_by(days: int) -> list[Off]:
    """Return it for days of chance casts and answers; those left out that leave too few particles to say."""
    table, runs = day_in_june()
    grid = table.grid
    exposed = {one.key: Exposed(one, grid) for one in table.options if one.key in runs}
    paths = {key: fine(run) for key, run in runs.items()}
    edges = [*(c - 0.5 * grid.step_m for c in grid.centres_m), grid.centres_m[-1] + 0.5 * grid.step_m]
    found = []
    for number in range(days):
        luck = np.random.default_rng(number)
        belief, particles = SearchBelief(grid), Particles(grid, luck)
        for _ in range(CASTS):
            key = str(luck.choice(list(runs)))
            events = []
            if luck.random() < 0.15:
                at = int(luck.integers(len(runs[key].time_s)))
                depth = float(max(runs[key].fly_depth_m[0, at], 0.0))
                events = [Event(depth, bool(luck.random() < 0.6))]
            belief.cast(exposed[key], events)
            particles.meet(exposed[key], paths[key], events)
        still = np.array(belief.of[STILL]).sum(axis=0).reshape(len(grid.centres_m), -1).sum(axis=1)
        still /= still.sum()
        weight = particles.weight
        if 1.0 / (weight**2).sum() < LEAST_LEFT:
            continue
        there = np.histogram(particles.centre_m, edges, weights=weight)[0]
        mean = float(weight @ particles.centre_m)
        noise_m = float(np.sqrt((weight**2) @ (particles.centre_m - mean) ** 2))
        off_m = abs(float(still @ grid.centres_m) - mean)
        found.append(Off(off_m, float(np.abs(np.cumsum(still) - np.cumsum(there)).max()), noise_m))
    return found


class ManyDays(unittest.TestCase):
    def test_what_the_table_makes_of_a_day_is_what_particles_make_of_the_full_paths(self) -> None:
        """`make search` asks it of fifty days."""
        off = off_by(5)
        self.assertGreaterEqual(len(off), 3)
        for one in off:
            self.assertLess(one.mean_m, 3.0 * one.noise_m + LAYERS_M)
        self.assertLess(float(np.mean([one.chance for one in off])), 0.08)
