"""Options of every way are simulated, timed and named alike; the season draws the belief where practice says."""

from __future__ import annotations

import itertools
import unittest
from dataclasses import replace
from datetime import datetime

import numpy as np

from stillthread.depth.factors import season_factor
from stillthread.depth.picture import read_water
from stillthread.plan.enumerate import Box, Pins, build_for, feasible_options
from stillthread.plan.methods import METHODS, SCHOOLS
from stillthread.plan.options import BACK_SHARE, RESET_S, Hang, simulate_option, simulate_options
from stillthread.plan.rank import RECAST_S, water_for
from stillthread.rules.water_rules import WaterRules
from stillthread.sinking.cast import Cast
from stillthread.sinking.thread import QUICK
from stillthread.sinking.troll import Troll
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from stillthread.water.reading import Reading
from stillthread.weather.wind import Wind
from tests.rigs import SUMMER_TIME, conditions

PICTURE = read_water(conditions(at=datetime(2026, 6, 25, 12, tzinfo=SUMMER_TIME), bottom_depth_m=5.0, wind=Wind(4.0, 225.0)))
BOX = Box(starter_lines(), STARTER_FLIES, boat=True)
FOUND = feasible_options(PICTURE, BOX, WaterRules())


class OptionTests(unittest.TestCase):
    def test_each_way_is_simulated_and_its_cycle_is_longer_than_its_run(self) -> None:
        water = water_for(PICTURE)
        for kind in (Cast, Hang, Troll):
            option = next(option for option in FOUND.options if isinstance(option.action, kind))
            result = simulate_option(option, water, QUICK)
            self.assertEqual(result.fly_depth_m.shape[0], len(option.flies))
            extra = {Cast: float(RECAST_S), Hang: RESET_S, Troll: BACK_SHARE * result.duration_s}[kind]
            self.assertAlmostEqual(option.cycle_s(result), result.duration_s + extra)
            self.assertGreater(option.speed_mps, 0.0)

    def test_many_at_once_come_back_in_their_order(self) -> None:
        some, water = FOUND.options[:: len(FOUND.options) // 8], water_for(PICTURE)
        together = simulate_options(some, water, quick=True)
        for option, result in zip(some, together, strict=True):
            self.assertEqual(result.duration_s, simulate_option(option, water, QUICK).duration_s)

    def test_every_method_gets_lines_of_its_own_range_and_leaders_that_cast(self) -> None:
        for option in FOUND.options:
            low, high = option.method.lines
            rate = 0.0 if option.rig.line.floats else option.rig.line.sink_rate_mps
            self.assertTrue(low <= rate <= high, (option.method.key, option.rig.line.name))
            if isinstance(option.action, Cast):
                self.assertLess(option.rig.leader.length_m + 0.4, option.action.cast_m)
            if option.method.key == "washing-line":
                self.assertTrue(option.flies[0].buoyant)
            if option.method.key == "drift-boat":
                assert isinstance(option.action, Cast)
                self.assertGreater(option.action.tip_ms, 0.05)

    def test_what_is_cut_makes_the_leader_that_was_simulated(self) -> None:
        for option in FOUND.options[:: len(FOUND.options) // 20]:
            built = build_for(option, PICTURE)
            finished = sum(cut.finished_m for cut in built.cuts)
            self.assertAlmostEqual(finished, option.rig.leader.length_m, places=6)

    def test_a_float_stands_at_every_depth_down_to_a_few_inches_off_the_bottom(self) -> None:
        depths = sorted({option.action.set_depth_m for option in FOUND.options if isinstance(option.action, Hang)})
        self.assertLess(depths[0], 1.0)
        self.assertAlmostEqual(depths[-1], 4.88)
        self.assertTrue(all(b - a < 0.8 for a, b in itertools.pairwise(depths)))

    def test_a_pinned_method_leaves_the_others_out_without_a_word(self) -> None:
        only = feasible_options(PICTURE, BOX, WaterRules(), pins=Pins(method_key="tip"))
        self.assertEqual({option.method.key for option in only.options}, {"tip"})
        self.assertEqual(only.excluded, {})

    def test_a_rod_casts_its_own_number_and_one_either_side_unless_a_line_is_pinned(self) -> None:
        lines = tuple(replace(line, name=f"number {n}", number=n) for line in starter_lines()[:1] for n in (4, 5, 6, 7, 8))
        box = replace(BOX, lines=lines, rod_number=6)
        found = feasible_options(PICTURE, box, WaterRules())
        self.assertEqual({option.rig.line.number for option in found.options}, {5, 6, 7})
        pinned = feasible_options(PICTURE, box, WaterRules(), pins=Pins(line_name="number 8"))
        self.assertEqual({option.rig.line.number for option in pinned.options}, {8})

    def test_every_method_and_school_says_what_it_is_in_a_line(self) -> None:
        for method in METHODS.values():
            for words in (method.suits, method.needs, method.spoils):
                self.assertTrue(5 < len(words) < 90, (method.key, words))
        self.assertTrue(all(school.believes.endswith(".") for school in SCHOOLS.values()))


class SeasonTests(unittest.TestCase):
    DEPTH = np.arange(0.0, 10.05, 0.1)

    def best_m(self, surface_c: float, progress: float) -> float:
        factor = season_factor(self.DEPTH, surface_c, progress)
        assert factor is not None
        return float(self.DEPTH[int(np.argmax(factor.share))])

    def test_each_season_draws_them_where_practice_says(self) -> None:
        # Common practice: 8 to 10 ft early, 15 to 30 ft late, 10 to 16 ft in winter.
        self.assertTrue(2.4 <= self.best_m(7.0, -0.2) <= 3.1)
        self.assertTrue(4.6 <= self.best_m(9.0, 1.2) <= 9.1)
        self.assertTrue(3.0 <= self.best_m(3.0, 1.5) <= 4.9)

    def test_layered_and_shallow_water_is_left_to_the_other_factors(self) -> None:
        self.assertIsNone(season_factor(self.DEPTH, 17.0, 0.5))
        self.assertIsNone(season_factor(np.arange(0.0, 2.0, 0.1), 7.0, -0.2))

    def test_it_leans_and_rules_nothing_out(self) -> None:
        factor = season_factor(self.DEPTH, 7.0, -0.2)
        assert factor is not None
        self.assertGreaterEqual(float(factor.share.min()), 0.39)
        cold = read_water(conditions(at=datetime(2026, 4, 18, 11, tzinfo=SUMMER_TIME), readings=(Reading(0.0, 6.5),)))
        self.assertIn("season", {f.key for f in cold.belief.factors})
