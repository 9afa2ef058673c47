"""What a line really sinks at: trials, touches of ordinary casts, and how wide the simulation spreads for it."""

from __future__ import annotations

import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from stillthread.errors import BadInput, OutOfRange
from stillthread.learn.calibrating import Timed, calibrated, timed_level
from stillthread.learn.touching import timed_touch
from stillthread.sinking.cast import Cast, Water, simulate
from stillthread.sinking.doubts import CALIBRATED_SPREAD
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.sinking.spread import at_rate_share, simulate_spread
from stillthread.tackle.lines import line_of_class
from stillthread.tackle.making import LABEL_WATER_C
from stillthread.tackle.rig import PlacedFly, Rig
from tests.rigs import LEADER, LIGHT_NYMPH
from tests.seasons import coverage_of_lines

TYPE_3 = line_of_class("type-3")


class TrialTest(unittest.TestCase):
    def test_at_the_labels_temperature_a_trial_says_depth_by_time(self) -> None:
        timed = timed_level(TYPE_3, 4.0, 50.0, LABEL_WATER_C, "sounder")
        self.assertAlmostEqual(timed.rate_mps, 0.08, places=6)

    def test_in_warm_water_a_line_sinks_faster_and_the_rate_is_put_right(self) -> None:
        warm, cold = (timed_level(TYPE_3, 4.0, 50.0, c, "mark").rate_mps for c in (22.0, 4.0))
        self.assertLess(warm, 0.08)
        self.assertGreater(cold, 0.08)
        self.assertTrue(1.02 < cold / warm < 1.25, cold / warm)

    def test_a_short_trial_and_a_depth_known_badly_are_doubted_more(self) -> None:
        doubts = [
            timed_level(TYPE_3, d, d / 0.076, 10.0, by).doubt for d, by in ((6.0, "sounder"), (6.0, "fished"), (0.6, "sounder"))
        ]
        self.assertLess(doubts[0], doubts[1])
        self.assertLess(doubts[0], doubts[2])

    def test_what_is_no_trial_is_refused(self) -> None:
        for depth_m, elapsed_s, water_c in ((0.1, 50.0, 10.0), (4.0, 0.5, 10.0), (4.0, 50.0, 60.0)):
            with self.assertRaises(OutOfRange):
                timed_level(TYPE_3, depth_m, elapsed_s, water_c, "mark")
        with self.assertRaises(BadInput):
            timed_level(TYPE_3, 4.0, 50.0, 10.0, "guess")
        with self.assertRaises(BadInput):
            timed_level(line_of_class("floating"), 4.0, 50.0, 10.0, "mark")


class CalibrationTest(unittest.TestCase):
    def test_the_interval_holds_the_true_rate_nine_times_in_ten(self) -> None:
        self.assertTrue(0.87 <= coverage_of_lines(600) <= 0.94)

    def test_without_trials_it_is_the_label(self) -> None:
        found = calibrated(0.0762, [])
        self.assertAlmostEqual(found.rate_mps, 0.0762, places=4)
        self.assertTrue(0.2 < found.spread < 0.3)

    def test_one_trial_that_went_wrong_is_flagged_and_hardly_moves_it(self) -> None:
        good = [Timed(0.060, 0.04), Timed(0.062, 0.04), Timed(0.061, 0.04), Timed(0.059, 0.04)]
        found, with_stray = calibrated(0.0762, good), calibrated(0.0762, [*good, Timed(0.03, 0.04)])
        self.assertGreater(with_stray.strays[-1], 0.9)
        self.assertLess(max(with_stray.strays[:-1]), 0.2)
        self.assertAlmostEqual(with_stray.rate_mps, found.rate_mps, delta=0.002)
        self.assertAlmostEqual(found.of_label, 0.8, delta=0.03)

    def test_trials_that_agree_are_believed_over_a_label_that_is_far_off(self) -> None:
        found = calibrated(0.152, [Timed(r, 0.03) for r in (0.060, 0.056, 0.061, 0.13)])
        self.assertAlmostEqual(found.rate_mps, 0.059, delta=0.004)
        self.assertEqual([stray > 0.5 for stray in found.strays], [False, False, False, True])

    @given(st.floats(0.01, 0.25), st.lists(st.floats(0.5, 2.0), min_size=1, max_size=8))
    def test_it_lies_among_label_and_trials(self, label: float, shares: list[float]) -> None:
        found = calibrated(label, [Timed(label * share, 0.05) for share in shares])
        self.assertTrue(min(1.0, *shares) * 0.98 <= found.of_label <= max(1.0, *shares) * 1.02)
        self.assertTrue(found.low_mps < found.rate_mps < found.high_mps)


class TouchTest(unittest.TestCase):
    RIG = Rig(TYPE_3, LEADER, (PlacedFly(LIGHT_NYMPH),))
    CAST = Cast(18.0, 150.0, RETRIEVES["slow-twist"])
    WATER = Water(10.0, ((0.0, 4.0),))

    def test_a_touch_gives_the_rate_back_that_made_it(self) -> None:
        slow = replace(self.RIG, line=at_rate_share(TYPE_3, 0.8))
        open_water = Water(10.0, ((0.0, 12.0),))
        run = simulate(slow, self.CAST, open_water)
        at_s = float(run.time_s[(run.fly_depth_m[0] >= 3.95).argmax()])
        timed = timed_touch(self.RIG, self.CAST, self.WATER, at_s, 4.0)
        assert timed is not None
        self.assertAlmostEqual(timed.rate_mps / TYPE_3.sink_rate_mps, 0.8, delta=0.03)

    def test_a_touch_that_says_nothing_is_left_out(self) -> None:
        floating = replace(self.RIG, line=line_of_class("floating"))
        self.assertIsNone(timed_touch(floating, self.CAST, self.WATER, 40.0, 4.0))
        self.assertIsNone(timed_touch(self.RIG, self.CAST, self.WATER, 200.0, 4.0))  # on the retrieve
        self.assertIsNone(timed_touch(self.RIG, self.CAST, self.WATER, 3.0, 4.0))  # no line is that fast

    def test_a_timed_line_spreads_less_than_a_label(self) -> None:
        timed = replace(self.RIG, line=replace(TYPE_3, rate_spread=0.03))
        by_label, by_time = (simulate_spread(rig, self.CAST, self.WATER).spread_m[0] for rig in (self.RIG, timed))
        self.assertLess(float(by_time.mean()), float(by_label.mean()))
        hand = replace(self.RIG, line=replace(TYPE_3, rate_spread=float(CALIBRATED_SPREAD)))
        by_hand = simulate_spread(hand, self.CAST, self.WATER).spread_m[0]
        self.assertTrue(float(by_time.mean()) < float(by_hand.mean()) < float(by_label.mean()))
        with self.assertRaises(OutOfRange):
            replace(TYPE_3, rate_spread=2.0)
