"""Options of every way are simulated, timed and named alike; the season draws the belief where practice says."""

from __future__ import annotations

import itertools
import unittest
from dataclasses import replace
from datetime import datetime

import numpy as np

from stillthread.depth.factors import season_factor
from stillthread.depth.picture import read_water
from stillthread.plan.box import Pins
from stillthread.plan.casting_water import water_for
from stillthread.plan.choose import choose, given_for
from stillthread.plan.explaining.tying import build_for
from stillthread.plan.methods import METHODS
from stillthread.plan.option import simulate_option, simulate_options
from stillthread.rules.method_names import METHOD_NAMES
from stillthread.sinking.cast import Cast
from stillthread.sinking.hang import Hang
from stillthread.sinking.thread import QUICK
from stillthread.sinking.troll import Troll
from stillthread.tackle.lines import Stretch, line_of_class
from stillthread.tackle.starter import starter_lines
from stillthread.trade.schools import SCHOOLS
from stillthread.trade.timing import BACK_SHARE, RECAST_S, RESET_S
from stillthread.water.reading import Reading
from stillthread.weather.wind import Wind
from tests.planning import BOX, FREE, options_for
from tests.rigs import SUMMER_TIME, conditions

PICTURE = read_water(conditions(at=datetime(2026, 6, 25, 12, tzinfo=SUMMER_TIME), bottom_depth_m=5.0, wind=Wind(4.0, 225.0)))
BOAT = replace(BOX, boat=True)
GIVEN = given_for(PICTURE, BOAT, FREE)
OPTIONS, EXCLUDED = options_for(PICTURE, BOAT, FREE)


class OptionTests(unittest.TestCase):
    def test_each_way_is_simulated_and_its_cycle_is_longer_than_its_run(self) -> None:
        water = water_for(PICTURE)
        for kind in (Cast, Hang, Troll):
            option = next(option for option in OPTIONS if isinstance(option.action, kind))
            result = simulate_option(option, water, QUICK)
            self.assertEqual(result.fly_depth_m.shape[0], len(option.flies))
            extra = {Cast: float(RECAST_S), Hang: float(RESET_S), Troll: float(BACK_SHARE) * result.duration_s}[kind]
            self.assertAlmostEqual(option.cycle_s(result), result.duration_s + extra)
            self.assertGreater(option.speed_mps, 0.0)

    def test_many_at_once_come_back_in_their_order(self) -> None:
        some, water = OPTIONS[:: len(OPTIONS) // 8], water_for(PICTURE)
        for option, result in zip(some, simulate_options(some, water), strict=True):
            self.assertEqual(result.duration_s, simulate_option(option, water).duration_s)

    def test_every_method_gets_lines_of_its_own_range_and_leaders_that_cast(self) -> None:
        for option in OPTIONS:
            low, high = option.method.lines_mps
            self.assertTrue(low <= option.rig.line.front_mps <= high, (option.method.key, option.rig.line.name))
            if isinstance(option.action, Cast):
                self.assertLess(option.rig.leader.length_m + 0.4, option.action.cast_m)
            if option.method.key == "washing-line":
                self.assertTrue(option.flies[0].buoyant)
                self.assertGreaterEqual(len(option.flies), 2)
            if option.method.key == "drift-boat":
                assert isinstance(option.action, Cast)
                self.assertGreater(option.action.tip_mps, 0.05)

    def test_who_may_not_sit_on_a_seat_does_not(self) -> None:
        for option in OPTIONS:
            for rule, fly in zip(option.method.seats(len(option.flies)), option.flies, strict=True):
                self.assertTrue(rule(fly), (option.method.key, fly.name))
            if option.method.key == "indicator":
                self.assertTrue(all(fly.style == "natural" and not fly.buoyant for fly in option.flies))
            if len(option.flies) > 1 and option.method.key not in {"dry", "buoyant-deep"}:
                self.assertFalse(any(fly.weighted or fly.buoyant for fly in option.flies[1:]), option)

    def test_what_practice_uses_is_looked_at(self) -> None:
        # Common practice: a buoyant point on an intermediate and a sinker, two hands on an intermediate, three flies on a
        # sinker, 2 to 2.4 m of leader for a buoyant fly on a fast line, mixed retrieves.
        def any_of(key: str, what: object) -> bool:
            return any(what(option) for option in OPTIONS if option.method.key == key)  # type: ignore[operator]

        for key in ("intermediate", "sinker"):
            self.assertTrue(any_of(key, lambda o: o.flies[0].buoyant), key)
        self.assertTrue(any_of("intermediate", lambda o: o.action.retrieve.key == "two-handed"))
        self.assertTrue(any_of("sinker", lambda o: len(o.flies) == 3))
        self.assertTrue(any_of("buoyant-deep", lambda o: 2.0 <= o.rig.leader.length_m <= 2.4))
        moved = {o.action.retrieve.key for o in OPTIONS if isinstance(o.action, Cast)}
        self.assertLessEqual({"twist-pulls", "pull-stop", "quick-twist"}, moved)

    def test_light_flies_with_far_to_sink_may_carry_a_shot_and_are_so_tied(self) -> None:
        light = replace(BOX, flies=tuple(fly for fly in BOX.flies if fly.name in {"Fine-wire brown pupa", "Tiny grey pupa"}))
        deep = read_water(conditions(at=datetime(2026, 5, 20, 11, tzinfo=SUMMER_TIME), bottom_depth_m=6.0, readings=(Reading(0.0, 12.0),), signs=("shucks",), wind=Wind(0.5, 225.0)))  # fmt: skip
        plan = choose(deep, light, FREE, pins=Pins(method_key="indicator"))
        hung = plan.ranked[0].option
        self.assertIn("shot-6", [piece.kind for piece in hung.rig.leader.hardware])
        built = build_for(hung, plan.scorer.given)
        self.assertEqual(built.leader.hardware, hung.rig.leader.hardware)
        self.assertIn("Pinch a shot", built.hints[-1].text)

    def test_what_is_cut_makes_the_leader_that_was_simulated(self) -> None:
        for option in OPTIONS[:: len(OPTIONS) // 20]:
            built = build_for(option, GIVEN)
            finished = sum(cut.finished_m for cut in built.cuts)
            self.assertAlmostEqual(finished, option.rig.leader.length_m, places=6)

    def test_a_float_stands_at_every_depth_down_to_a_few_inches_off_the_bottom(self) -> None:
        depths = sorted({option.action.set_depth_m for option in OPTIONS if isinstance(option.action, Hang)})
        self.assertAlmostEqual(depths[0], 0.4)
        self.assertAlmostEqual(depths[-1], 4.9)
        self.assertTrue(all(b - a < 0.8 for a, b in itertools.pairwise(depths)))
        # About the best it is stepped by a hand's breadth.
        self.assertLessEqual(min(b - a for a, b in itertools.pairwise(depths)), 0.1)

    def test_a_pinned_method_leaves_the_others_out_without_a_word(self) -> None:
        options, excluded = options_for(PICTURE, BOAT, FREE, pins=Pins(method_key="tip"))
        self.assertEqual({option.method.key for option in options}, {"tip"})
        self.assertEqual(excluded, {})

    def test_a_floater_with_a_sinking_leader_looped_on_fishes_as_a_tip(self) -> None:
        looped = replace(starter_lines()[0], name="floater and sinking leader", looped=Stretch(2.5, 0.05))
        self.assertTrue(looped.tips)
        self.assertFalse(starter_lines()[0].tips)
        options, _ = options_for(PICTURE, replace(BOAT, lines=(looped,)), FREE, thorough=False)
        self.assertIn("tip", {option.method.key for option in options})
        self.assertNotIn("dry", {option.method.key for option in options})
        self.assertEqual(
            [line_of_class(key).front_mps for key in ("floating", "type-5")], [0.0, line_of_class("type-5").sink_rate_mps]
        )

    def test_a_rod_casts_its_own_number_and_one_either_side_unless_a_line_is_pinned(self) -> None:
        lines = tuple(replace(line, name=f"number {n}", number=n) for line in starter_lines()[:1] for n in (4, 5, 6, 7, 8))
        box = replace(BOAT, lines=lines, rod_number=6)
        options, _ = options_for(PICTURE, box, FREE)
        self.assertEqual({option.rig.line.number for option in options}, {5, 6, 7})
        pinned, _ = options_for(PICTURE, box, FREE, pins=Pins(line_name="number 8"))
        self.assertEqual({option.rig.line.number for option in pinned}, {8})

    def test_every_method_and_school_says_what_it_is_in_a_line(self) -> None:
        self.assertEqual(list(METHODS), list(METHOD_NAMES))
        for method in METHODS.values():
            for words in (method.suits, method.needs, method.spoils):
                self.assertTrue(5 < len(words) < 90, (method.key, words))
        self.assertTrue(all(school.believes.endswith(".") for school in SCHOOLS.values()))


class SeasonTests(unittest.TestCase):
    DEPTH = np.arange(0.0, 10.05, 0.1)

    def best_m(self, progress: float, northern_day: float, depth_m: float = 10.0) -> float:
        depth = self.DEPTH[depth_m >= self.DEPTH]
        factor = season_factor(depth, progress, northern_day)
        assert factor is not None
        return float(depth[int(np.argmax(factor.share))])

    def test_each_season_draws_them_where_practice_says(self) -> None:
        # Common practice: 8 to 10 ft early, 15 to 30 ft late, 10 to 16 ft in winter, there the top 2 ft over 4 to 5 ft.
        self.assertTrue(2.4 <= self.best_m(-0.2, 90.0) <= 3.1)
        self.assertTrue(4.6 <= self.best_m(1.2, 300.0) <= 9.1)
        self.assertTrue(3.0 <= self.best_m(1.5, 350.0) <= 4.9)
        self.assertTrue(3.0 <= self.best_m(-0.5, 30.0) <= 4.9)
        self.assertLessEqual(self.best_m(1.5, 350.0, 1.4), 0.6)

    def test_layered_and_shallow_water_is_left_to_the_other_factors(self) -> None:
        self.assertIsNone(season_factor(self.DEPTH, 0.5, 180.0))
        self.assertIsNone(season_factor(np.arange(0.0, 1.9, 0.1), -0.2, 90.0))

    def test_it_leans_and_rules_nothing_out(self) -> None:
        for progress, day, least in ((-0.2, 90.0, 0.39), (1.2, 300.0, 0.15)):
            factor = season_factor(self.DEPTH, progress, day)
            assert factor is not None
            self.assertGreaterEqual(float(factor.share.min()), least)
        cold = read_water(conditions(at=datetime(2026, 4, 18, 11, tzinfo=SUMMER_TIME), readings=(Reading(0.0, 6.5),)))
        self.assertIn("season", {f.key for f in cold.belief.factors})

    def test_a_fast_tip_and_deep_water_ask_for_a_leader_of_twenty_feet(self) -> None:
        # Common practice: a fast tip with a long leader hangs at 20 to 30 ft. A floater is no tip, however fast the others sink.
        deep = replace(GIVEN, picture=read_water(conditions(bottom_depth_m=8.0)))
        slow = replace(BOX, lines=tuple(line for line in BOX.lines if not line.tips or line.front_mps < 0.1))
        tip = METHODS["tip"]
        self.assertIn(6.0, tip.leader_lengths(deep, 1))
        self.assertNotIn(6.0, tip.leader_lengths(replace(deep, box=slow), 1))
        self.assertNotIn(6.0, tip.leader_lengths(replace(GIVEN, picture=read_water(conditions(bottom_depth_m=4.0))), 1))
