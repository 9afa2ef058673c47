"""Days like this one: exposure by layer, how alike days are, and how far the log moves the belief."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from stillthread.depth.picture import read_water
from stillthread.learn.alike import DayTraits, alikeness
from stillthread.learn.exposure import LOG_LAYER_M, layer_of, layer_seconds, seconds_above_bottom
from stillthread.learn.leaning import MOST_SHARE, LikeDay, lean_of, most_moved
from tests.rigs import conditions
from tests.seasons import Habit, gain_of_log


class ExposureTest(unittest.TestCase):
    def test_a_fly_that_sinks_evenly_is_as_long_in_every_layer(self) -> None:
        seconds = layer_seconds([0.0, 40.0], [0.0, 2.0], [40.0])
        np.testing.assert_allclose(seconds[:4], [10.0] * 4)

    def test_a_cast_that_ended_early_counts_until_then(self) -> None:
        self.assertAlmostEqual(float(layer_seconds([0.0, 10.0, 20.0], [0.0, 3.0, 3.0], [12.0, 500.0]).sum()), 32.0)

    def test_height_above_the_bottom_is_the_other_way_up(self) -> None:
        high = seconds_above_bottom([0.0, 10.0, 30.0], [0.0, 4.9, 4.9], [30.0], 5.0)
        self.assertGreater(high[0], 20.0)
        self.assertAlmostEqual(float(high.sum()), 30.0)

    @given(
        st.lists(st.tuples(st.floats(0.1, 60.0), st.floats(0.0, 20.0)), min_size=2, max_size=12),
        st.lists(st.floats(0.0, 700.0), min_size=1, max_size=5),
    )
    def test_all_time_is_somewhere(self, steps: list[tuple[float, float]], ends: list[float]) -> None:
        time = np.cumsum([0.0] + [dt for dt, _ in steps[1:]])
        seconds = layer_seconds(time.tolist(), [depth for _, depth in steps], ends)
        self.assertAlmostEqual(float(seconds.sum()), float(np.minimum(ends, time[-1]).sum()), places=5)
        self.assertTrue(np.all(seconds >= -1e-9))

    def test_no_cast_and_no_path_is_no_time(self) -> None:
        self.assertEqual(float(layer_seconds([0.0], [1.0], [5.0]).sum()), 0.0)
        self.assertEqual(float(layer_seconds([0.0, 5.0], [1.0, 1.0], []).sum()), 0.0)
        self.assertEqual((layer_of(-0.2), layer_of(0.49), layer_of(2.5)), (0, 0, 5))


class AlikeTest(unittest.TestCase):
    MAY = DayTraits(northern_day=140.0, surface_c=12.0, light=0.5, wind_mps=3.0, secchi_m=3.0, water_id=1)

    def test_each_trait_tells_days_apart_and_another_water_counts_less(self) -> None:
        others = [
            replace(self.MAY, northern_day=182.0),
            replace(self.MAY, surface_c=17.0),
            replace(self.MAY, light=1.0),
            replace(self.MAY, wind_mps=8.0),
            replace(self.MAY, secchi_m=9.0),
            replace(self.MAY, water_id=2),
        ]
        found = alikeness(self.MAY, [self.MAY, *others])
        self.assertEqual(found[0], 1.0)
        self.assertTrue(np.all(found[1:] < 0.35), found)

    def test_new_year_is_no_gap(self) -> None:
        found = alikeness(replace(self.MAY, northern_day=364.0), [replace(self.MAY, northern_day=2.0)])
        self.assertGreater(found[0], 0.95)
        self.assertEqual(len(alikeness(self.MAY, [])), 0)


def like(takes: dict[int, float], expected: list[float], alike: float = 1.0) -> LikeDay:
    found = np.zeros(len(expected))
    for layer, count in takes.items():
        found[layer] = count
    return LikeDay(alike, found, np.array(expected, float))

    def test_a_day_unlike_in_one_thing_alone_counts_for_next_to_nothing(self) -> None:
        unlike = {"northern_day": self.MAY.northern_day + 100.0, "surface_c": self.MAY.surface_c + 9.0, "light": self.MAY.light + 1.0,
                  "wind_mps": self.MAY.wind_mps + 9.0, "secchi_m": 6.0 * self.MAY.secchi_m}  # fmt: skip
        for trait, value in unlike.items():
            self.assertLess(alikeness(self.MAY, [replace(self.MAY, **{trait: value})])[0], 0.01, trait)


class LeanTest(unittest.TestCase):
    def test_takes_where_few_were_expected_move_the_belief_there(self) -> None:
        lean = lean_of([like({9: 6.0}, [1.0] * 12), like({10: 5.0}, [1.0] * 12)], 6.0)
        assert lean is not None
        assert lean.more_m is not None
        factor = lean.factor(np.array([1.0, 4.9]))
        self.assertGreater(factor[1] / factor[0], 1.2)
        # A depth of which the log says nothing new keeps all that it had but the share that is the log's.
        self.assertAlmostEqual(float(lean.factor(np.array([0.25]))[0]), 1.0 + lean.share * (float(lean.ratio[0]) - 1.0))
        self.assertTrue(lean.more_m[0] <= 4.75 <= lean.more_m[1], lean.more_m)
        self.assertIn("2 days like this one: more took at", lean.why.plain())

    def test_a_good_day_alone_says_nothing_and_a_thin_log_hardly_anything(self) -> None:
        expected = [1.0, 2.0, 4.0, 2.0, 1.0]
        lean = lean_of([like(dict(enumerate(10.0 * x for x in expected)), expected)], 2.5)
        assert lean is not None
        np.testing.assert_allclose(lean.ratio, 1.0, atol=1e-9)
        self.assertIsNone(lean.more_m)
        self.assertIn("where they were expected", lean.why.plain())
        self.assertIsNone(lean_of([], 5.0))
        self.assertIsNone(lean_of([like({2: 1.0}, expected, alike=0.1)], 2.5))

    def test_takes_below_this_waters_bottom_count_at_the_bottom(self) -> None:
        lean = lean_of([like({15: 8.0}, [1.0] * 16)], 4.0)
        assert lean is not None
        self.assertEqual(len(lean.ratio), 8)
        self.assertEqual(int(np.argmax(lean.ratio)), 7)

    @given(st.lists(st.tuples(st.integers(0, 15), st.floats(0.0, 1e4)), min_size=1, max_size=8), st.floats(1.0, 20.0))
    def test_no_log_moves_two_depths_apart_by_more_than_is_stated(self, takes: list[tuple[int, float]], deep_m: float) -> None:
        lean = lean_of([like(dict(takes), [1.0] * 16)], deep_m)
        if lean is None:
            return
        factor = lean.factor(np.linspace(0.0, deep_m, 50))
        self.assertLessEqual(float(factor.max() / factor.min()), most_moved() + 1e-9)
        self.assertLessEqual(lean.share, float(MOST_SHARE))

    def test_the_log_helps_where_the_water_has_a_habit_and_costs_little_where_it_has_none(self) -> None:
        helps, error, _ = gain_of_log(1, 150, 10, Habit(1.2))
        self.assertGreater(helps, 0.02 + 2 * error)
        idle, _, _ = gain_of_log(2, 150, 10, Habit(0.0))
        self.assertGreater(idle, -0.01)

    def test_a_log_that_misleads_costs_no_more_than_is_stated(self) -> None:
        mean, _, worst = gain_of_log(3, 150, 20, Habit(1.5), Habit(-1.5))
        self.assertGreater(mean, -0.25)
        self.assertGreater(worst, -math.log(most_moved()))


class LeanedBeliefTest(unittest.TestCase):
    def test_the_picture_leans_says_why_and_stays_whole(self) -> None:
        before = read_water(conditions())
        deepest = before.conditions.deepest_m
        layers = int(deepest / LOG_LAYER_M)
        lean = lean_of([like({layers - 2: 20.0}, [1.0] * layers)], deepest)
        assert lean is not None
        after = read_water(conditions(lean=lean))
        self.assertGreater(after.belief.mean_m, before.belief.mean_m)
        self.assertAlmostEqual(float(after.belief.mass().sum()), 1.0)
        self.assertAlmostEqual(sum(c.probability for c in after.foods.chances), 1.0)
        mixed = sum(on.chance.probability * on.density_pm for on in after.belief.feeding)
        np.testing.assert_allclose(mixed, after.belief.density_pm, atol=2e-3)
        said = {factor.key: factor.why.plain() for factor in after.belief.factors}
        self.assertIn("One day like this one", said["log"])
        self.assertNotIn("log", {factor.key for factor in before.belief.factors})
