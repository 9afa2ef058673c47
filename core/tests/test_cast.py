"""Casts against the facts of the trade, and what must hold for any rig."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.errors import BadInput, OutOfRange
from stillthread.sinking.cast import LAYER_M, Cast, Water, simulate, simulate_many
from stillthread.sinking.retrieves import RETRIEVES, retrieve_named
from stillthread.tackle.flies import BEADS, DRESSINGS, Fly
from stillthread.tackle.leaders import LeaderSection, tippet_diameter_m
from stillthread.tackle.lines import LINE_CLASSES, Line, line_of_class, plain_sum_m
from tests.effort import examples
from tests.rigs import DEEP_WATER, FOAM_NYMPH, HEAVY_NYMPH, LEADER, LIGHT_NYMPH, rig

FOOT_M = 0.3048
STRIP = RETRIEVES["strip-pause"]
TWIST = RETRIEVES["slow-twist"]


class PlainSumTests(unittest.TestCase):
    """Common practice, no published source."""

    def test_an_inch_and_a_half_a_second_counted_24_is_three_feet(self) -> None:
        self.assertAlmostEqual(plain_sum_m(line_of_class("intermediate"), 24.0), 3.0 * FOOT_M, delta=1e-9)

    def test_three_inches_a_second_counted_20_is_five_feet_not_nine(self) -> None:
        self.assertAlmostEqual(plain_sum_m(line_of_class("type-3"), 20.0), 5.0 * FOOT_M, delta=1e-9)

    def test_a_light_fly_is_a_little_less_deep_than_the_sum(self) -> None:
        result = simulate(rig("intermediate"), Cast(18.0, 24.0, STRIP), DEEP_WATER)
        self.assertLess(result.start_depth_m(), result.plain_sum_m)
        self.assertGreater(result.start_depth_m(), 0.6 * result.plain_sum_m)

    def test_the_line_itself_is_near_the_sum(self) -> None:
        result = simulate(rig("intermediate"), Cast(18.0, 24.0, STRIP), DEEP_WATER)
        self.assertAlmostEqual(result.line_end_depth_m / result.plain_sum_m, 1.0, delta=0.2)


class PracticeTests(unittest.TestCase):
    """Common practice, no published source."""

    def test_a_faster_retrieve_is_shallower(self) -> None:
        deepest = [
            simulate(rig("type-3"), Cast(18.0, 20.0, retrieve_named("slow-twist", v)), DEEP_WATER).deepest_m()
            for v in (0.05, 0.1, 0.2, 0.4)
        ]
        self.assertEqual(deepest, sorted(deepest, reverse=True))

    def test_a_longer_count_starts_deeper(self) -> None:
        starts = [simulate(rig("type-5"), Cast(18.0, c, STRIP), DEEP_WATER).start_depth_m() for c in (5.0, 15.0, 30.0)]
        self.assertEqual(starts, sorted(starts))

    def test_a_slow_twist_lets_a_sinking_line_go_on_sinking(self) -> None:
        result = simulate(rig("fast-intermediate"), Cast(18.0, 20.0, TWIST), DEEP_WATER)
        self.assertGreater(result.deepest_m(), result.start_depth_m() + 1.0)

    def test_a_buoyant_fly_rides_above_a_fast_line(self) -> None:
        result = simulate(rig("type-7", FOAM_NYMPH), Cast(18.0, 20.0, TWIST), DEEP_WATER)
        self.assertLess(result.start_depth_m(), result.line_end_depth_m - 0.5)

    def test_a_floating_line_stays_up_and_a_light_fly_hangs_no_deeper_than_its_leader(self) -> None:
        result = simulate(rig("floating"), Cast(18.0, 60.0, STRIP), DEEP_WATER)
        self.assertLess(result.line_end_depth_m, 0.25)
        self.assertLess(result.deepest_m(), LEADER.length_m + 0.25)

    def test_an_unweighted_size_12_sinks_near_two_inches_a_second_and_a_bead_far_faster(self) -> None:
        plain = Fly(name="plain", hook_size=12).sink_rate_mps() / 0.0254
        self.assertTrue(1.5 < plain < 3.0, plain)
        self.assertGreater(HEAVY_NYMPH.sink_rate_mps(), 3.0 * LIGHT_NYMPH.sink_rate_mps())
        self.assertLess(FOAM_NYMPH.sink_rate_mps(), 0.0)

    def test_tippet_thickness_is_eleven_less_its_number(self) -> None:
        for x_number, inches in ((0, 0.011), (3, 0.008), (5, 0.006)):
            self.assertAlmostEqual(tippet_diameter_m(x_number), inches * 0.0254, delta=1e-9)


class InvariantTests(unittest.TestCase):
    @settings(max_examples=examples(60), deadline=None, derandomize=True)
    @given(
        class_key=st.sampled_from(sorted(set(LINE_CLASSES) - {"own"})),
        number=st.integers(4, 8),
        hook=st.sampled_from([6, 10, 14, 18]),
        dressing=st.sampled_from(sorted(DRESSINGS)),
        bead=st.sampled_from(sorted(BEADS)),
        foam_mm3=st.sampled_from([0.0, 120.0, 600.0]),
        cast_m=st.floats(6.0, 30.0),
        count_s=st.floats(0.0, 90.0),
        speed=st.floats(0.03, 1.5),
        key=st.sampled_from(sorted(RETRIEVES)),
        bottom_m=st.floats(0.5, 15.0),
    )
    def test_any_rig_stays_in_the_water_keeps_its_length_and_accounts_for_its_time(
        self, class_key: str, number: int, hook: int, dressing: str, bead: str, foam_mm3: float, cast_m: float,
        count_s: float, speed: float, key: str, bottom_m: float,
    ) -> None:  # fmt: skip
        fly = Fly(name="any", hook_size=hook, dressing=dressing, bead=bead, bead_mm=2.5, foam_mm3=foam_mm3)
        tied = rig(class_key, fly)
        tied = type(tied)(line_of_class(class_key, number), tied.leader, tied.flies)
        water = Water(8.0, ((0.0, bottom_m), (1.0, bottom_m)))
        result = simulate(tied, Cast(cast_m, count_s, retrieve_named(key, speed)), water)
        self.assertTrue(np.isfinite(result.thread_m).all())
        self.assertGreaterEqual(float(result.thread_m[:, :, 1].min()), 0.0)
        self.assertLessEqual(float(result.thread_m[:, :, 1].max()), bottom_m)
        self.assertAlmostEqual(float(result.layer_s[0].sum()), result.duration_s, delta=0.01)
        self.assertEqual(result.layer_s.shape[1], int(bottom_m / LAYER_M) + 1)

    def test_the_same_cast_alone_and_among_many_is_the_same(self) -> None:
        jobs = [(rig(key), Cast(18.0, 15.0, STRIP)) for key in ("very-slow", "type-3", "type-7")]
        for (tied, cast), many in zip(jobs, simulate_many(jobs, DEEP_WATER), strict=True):
            self.assertTrue(np.array_equal(simulate(tied, cast, DEEP_WATER).fly_depth_m, many.fly_depth_m))

    def test_a_shelving_bottom_stops_the_fly_where_it_rises(self) -> None:
        shelf = Water(10.0, ((4.0, 1.0), (16.0, 8.0)))
        result = simulate(rig("type-7", HEAVY_NYMPH), Cast(18.0, 60.0, TWIST), shelf)
        floor = np.interp(result.fly_distance_m[0], [4.0, 16.0], [1.0, 8.0])
        self.assertLess(float((result.fly_depth_m[0] - floor).max()), 0.02)
        self.assertGreater(float(result.contact_s[0]), 10.0)


class RefusalTests(unittest.TestCase):
    def test_a_retrieve_of_zero_is_refused_with_what_to_do(self) -> None:
        with self.assertRaises(OutOfRange) as refused:
            retrieve_named("slow-twist", 0.0)
        self.assertEqual(
            refused.exception.message, "retrieve_mps = 0 m/s lies outside 0.01 to 3 m/s. To hold still, count longer."
        )

    def test_a_cast_shorter_than_its_leader_is_refused(self) -> None:
        with self.assertRaises(OutOfRange) as refused:
            simulate(rig("very-slow"), Cast(4.0, 0.0, STRIP), DEEP_WATER)
        self.assertEqual(refused.exception.field, "cast_m")

    def test_unknown_tackle_is_refused_by_name(self) -> None:
        with self.assertRaises(BadInput) as line:
            line_of_class("type-99")
        self.assertTrue(line.exception.message.startswith("line class 'type-99' is not known."))
        for make in (
            lambda: Line("sinking floater", "floating", 6, 0.1),
            lambda: Line("still sinker", "type-3", 6, 0.0),
            lambda: Fly(name="odd hook", hook_size=11),
            lambda: LeaderSection(1.0, 0.0002, "horsehair"),
            lambda: retrieve_named("wiggle"),
        ):
            with self.assertRaises(BadInput):
                make()
