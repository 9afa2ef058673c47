"""Side wind: the chain in three dimensions against theory, its mirror image and the plane, and what is told of a bow."""

from __future__ import annotations

import itertools
import math
import unittest
from dataclasses import replace
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.drag.laws import cylinder_cd, thread_weight_npm
from stillthread.errors import BadInput, FloatArray, OutOfRange
from stillthread.sinking import chain, space
from stillthread.sinking.across import bow_m, check_mends, drag_mps, driven, floating_m, side_of, slack_m, with_mends
from stillthread.sinking.cast import Cast, level_water, simulate
from stillthread.sinking.groups import NO_FLOAT, Around, Chain, Cut
from stillthread.sinking.indicator import Drift, IndicatorRig, simulate_drift
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.sinking.run import Water
from stillthread.sinking.thread import FINE, QUICK
from stillthread.tackle.leaders import Leader, LeaderSection
from stillthread.tackle.lines import LINE_CLASSES, line_of_class
from stillthread.tackle.rig import PlacedFly
from tests.effort import examples
from tests.rigs import DEEP_WATER, FOAM_NYMPH, HEAVY_NYMPH, LIGHT_NYMPH, rig
from tests.test_chain import DENSITY, VISCOSITY

LENGTHS_HOLD = 0.006
PLANE_AGREES = 0.01
STRIP, TWIST, STATIC = (RETRIEVES[key] for key in ("strip-pause", "slow-twist", "static"))
LEVEL = Leader("level", (LeaderSection(0.9, 0.0004, "nylon"), LeaderSection(5.0, 0.00018)))
LAKE = level_water(12.0, 9.0)


def bare(
    rate_mps: float,
    *,
    drift_mps: float = 0.0,
    cross_mps: float = 0.0,
    tip: tuple[float, float] = (0.0, 0.0),
    for_s: float = 400.0,
    length_m: float = 15.0,
    decay_m: float = 1e9,
    fixed_end: tuple[float, float, float] | None = None,
    segments: int = 15,
) -> FloatArray:
    """Return where the nodes of a bare line end up, shape (n_node, 3) as x, depth, y: in a current even with depth, its tip
    moved at `tip` [m/s], its end free or so heavy that it stays where it lies."""
    n = segments + 1
    rest = np.full(n, length_m / segments)
    rest[0] = 0.0
    weights, widths = np.zeros(n), np.zeros(n)
    x, y, z = np.cumsum(rest), np.zeros(n), np.zeros(n)
    bottom = 200.0
    if fixed_end is not None:
        weights[-1], widths[-1] = 50.0, 0.02
        # Laid straight and a little slack: a straight line is shorter than the thread.
        x, y, z = (np.linspace(0.0, end, n) for end in fixed_end)
        bottom = fixed_end[2]
    laid = Chain(
        x, y, z, rest, np.full(n, thread_weight_npm(rate_mps, 1.1e-3, DENSITY, VISCOSITY)), np.full(n, 1.1e-3),
        np.full(n, 0.015), weights, widths,
    )  # fmt: skip
    around = Around(DENSITY, VISCOSITY, drift_mps, cross_mps, decay_m, 0.0, np.array([-500.0, 500.0]), np.full(2, bottom), 0.0)
    program = np.array([[for_s, 0.0, *tip, 0.0, 0.0, chain.COUNTING]])
    cut = Cut(0.1, FINE.stretch, 1.0, 1.0, int(bottom) + 2)
    path = chain.run_chain(laid, np.array([n - 1]), 0, around, NO_FLOAT, program, cut, True)[2]
    return np.asarray(path[-1])


def critical_rad(rate_mps: float, flow_mps: float) -> float:
    """Return the angle at which a bare line lies in an even flow: w cos(phi) = drag(U sin(phi)) (berteaux-1976)."""
    weight = thread_weight_npm(rate_mps, 1.1e-3, DENSITY, VISCOSITY)
    low, high = 1e-4, math.pi / 2
    for _ in range(60):
        phi = 0.5 * (low + high)
        across = flow_mps * math.sin(phi)
        drag = 0.5 * DENSITY * cylinder_cd(DENSITY * across * 1.1e-3 / VISCOSITY) * 1.1e-3 * across**2
        low, high = (phi, high) if drag < weight * math.cos(phi) else (low, phi)
    return low


class EvenCurrentTests(unittest.TestCase):
    def test_a_line_held_in_an_even_cross_current_lies_as_towed_cable_theory_has_it(self) -> None:
        for rate, along, across in ((0.0762, 0.0, 0.1), (0.0381, 0.15, 0.2), (0.1524, -0.3, 0.4), (0.0762, 0.06, -0.08)):
            with self.subTest(rate=rate, along=along, across=across):
                path = bare(rate, drift_mps=along, cross_mps=across)
                end = path[-1] - path[0]
                flow = math.hypot(along, across)
                found = math.atan2(end[1], math.hypot(end[0], end[2]))
                self.assertAlmostEqual(math.degrees(found), math.degrees(critical_rad(rate, flow)), delta=0.2)
                # It lies in the plane of the current, however it was laid.
                self.assertAlmostEqual(math.atan2(end[2], end[0]), math.atan2(across, along), delta=0.02)

    def test_towed_across_it_is_the_same_as_held_in_the_current(self) -> None:
        held = bare(0.0762, cross_mps=0.1)
        towed = bare(0.0762, tip=(0.0, -0.1), for_s=400.0)
        self.assertLess(float(np.abs((held - held[0]) - (towed - towed[0])).max()), 0.05)

    def test_held_at_both_ends_in_a_cross_flow_it_hangs_as_a_catenary_turned_aside(self) -> None:
        # Weight and drag across are even along a shallow line: it hangs as under their resultant, in a plane leaned over.
        span, length, flow, rate = 10.0, 10.15, 0.08, 0.0762
        path = bare(
            rate, cross_mps=flow, fixed_end=(span, 0.0, 4.0), length_m=math.hypot(length, 4.0), segments=60, for_s=300.0
        )
        chord = path[-1] - path[0]
        off = path - path[0] - np.outer(np.linspace(0.0, 1.0, len(path)), chord)
        sag, aside = float(off[len(off) // 2, 1]), float(off[len(off) // 2, 2])
        weight = thread_weight_npm(rate, 1.1e-3, DENSITY, VISCOSITY)
        drag = 0.5 * DENSITY * cylinder_cd(DENSITY * flow * 1.1e-3 / VISCOSITY) * 1.1e-3 * flow**2
        # Across a chord that slopes, gravity's share across it is that of the slope's cosine.
        slope = math.hypot(chord[0], chord[2]) / float(np.linalg.norm(chord))
        self.assertAlmostEqual(aside / math.hypot(sag, float(off[len(off) // 2, 0])), drag / (weight * slope), delta=0.06)


class PlaneTests(unittest.TestCase):
    """Where nothing moves across, three dimensions are the plane."""

    def test_along_the_wind_both_kernels_agree(self) -> None:
        for key, fly, retrieve in itertools.product(
            ("floating", "intermediate", "type-5", "slow-tip"), (LIGHT_NYMPH, HEAVY_NYMPH, FOAM_NYMPH), (STRIP, TWIST)
        ):
            with self.subTest(key, fly=fly.name, retrieve=retrieve.key):
                cast = Cast(16.0, 20.0, retrieve, wind_speed_mps=4.0, off_wind_deg=0.0)
                plane = simulate(rig(key, fly), cast, DEEP_WATER)
                space = simulate(rig(key, fly), cast, replace(DEEP_WATER, cross_drift_mps=1e-12))
                self.assertFalse(plane.sideways)
                off = np.abs(plane.fly_depth_m[0] - np.interp(plane.time_s, space.time_s, space.fly_depth_m[0]))
                self.assertLess(float(off.max()), PLANE_AGREES * max(float(plane.fly_depth_m.max()), 1.5))

    def test_wind_from_the_other_side_is_the_mirror_image(self) -> None:
        for key in ("floating", "type-3"):
            cast = Cast(16.0, 20.0, TWIST)
            left, right = (simulate(rig(key), cast, replace(DEEP_WATER, cross_drift_mps=side)) for side in (0.08, -0.08))
            self.assertLess(float(np.abs(left.thread_m - right.thread_m * (1.0, 1.0, -1.0)).max()), 1e-6)


class InvariantTests(unittest.TestCase):
    @settings(max_examples=examples(25), deadline=None)
    @given(
        key=st.sampled_from([key for key in LINE_CLASSES if key != "own"]),
        fly=st.sampled_from([LIGHT_NYMPH, HEAVY_NYMPH, FOAM_NYMPH]),
        wind=st.floats(0.5, 12.0),
        off_deg=st.floats(1.0, 179.0),
        count_s=st.floats(0.0, 60.0),
        retrieve=st.sampled_from(list(RETRIEVES.values())),
        mends=st.lists(st.floats(2.0, 100.0), max_size=3),
        bottom_m=st.floats(1.0, 12.0),
    )
    def test_lengths_hold_and_all_of_it_stays_in_the_water(
        self,
        key: str,
        fly: Any,
        wind: float,
        off_deg: float,
        count_s: float,
        retrieve: Any,
        mends: list[float],
        bottom_m: float,
    ) -> None:
        mends_s = tuple(at for at, before in zip(sorted(mends), [-9.0, *sorted(mends)], strict=False) if at - before >= 1.0)
        cast = Cast(16.0, count_s, retrieve, wind_speed_mps=wind, off_wind_deg=off_deg, mends_s=mends_s)
        result = simulate(rig(key, fly), cast, level_water(10.0, bottom_m), mesh=QUICK)
        self.assertTrue(np.isfinite(result.thread_m).all())
        self.assertLess(result.stretch, LENGTHS_HOLD)
        self.assertGreaterEqual(float(result.thread_m[:, :, 1].min()), 0.0)
        self.assertLessEqual(float(result.thread_m[:, :, 1].max()), bottom_m + 1e-9)
        self.assertGreaterEqual(float(slack_m(result).min()), 0.0)
        # Nothing goes further downwind than the water under it has.
        drift = 0.02 * wind * result.time_s
        self.assertTrue((result.thread_m[:, :, 2].max(axis=1) <= drift + 0.3).all())

    def test_a_mend_changes_no_length_and_moves_nothing_that_fishes(self) -> None:
        cast = Cast(18.0, 60.0, STATIC, wind_speed_mps=5.0)
        before, after = simulate(rig("floating"), cast, LAKE), simulate(rig("floating"), replace(cast, mends_s=(30.0,)), LAKE)
        at = int(np.searchsorted(after.time_s, 30.4))
        self.assertLess(float(after.thread_m[at, :, 2].min()), -0.5)  # the bow lies upwind
        self.assertGreater(float(before.thread_m[at, :, 2].min()), -0.01)
        self.assertLess(
            abs(float(after.fly_depth_m[0, at] - np.interp(after.time_s[at], before.time_s, before.fly_depth_m[0]))), 0.05
        )
        self.assertLess(after.stretch, LENGTHS_HOLD)


class MendTests(unittest.TestCase):
    def test_a_mend_is_the_mirror_image_about_the_straight_line_as_far_as_it_floats(self) -> None:
        x, y = np.array([0.0, 2.0, 4.0, 6.0, 8.0, 9.0]), np.array([0.0, 0.6, 1.5, 1.9, 1.0, 1.2])
        z = np.array([0.0, 0.0, 0.01, 0.02, 0.03, 0.9])
        filler = np.ones(6)
        laid = Chain(x.copy(), y.copy(), z, filler, filler, filler, filler, filler, filler)
        space.mend(0, 5, laid)
        # The chord runs from (0, 0) to (8, 1): what floats last stays, and so does what is sunk.
        chord = np.array([8.0, 1.0]) / math.hypot(8.0, 1.0)
        before, after = (chord[0] * b - chord[1] * a for a, b in ((x, y), (laid.x, laid.y)))
        np.testing.assert_allclose(after[:5], -before[:5], atol=1e-12)
        np.testing.assert_allclose((chord[0] * laid.x + chord[1] * laid.y)[:5], (chord[0] * x + chord[1] * y)[:5], atol=1e-12)
        self.assertEqual((laid.x[5], laid.y[5]), (9.0, 1.2))


class TradeTests(unittest.TestCase):
    """Common practice, no published source."""

    def test_the_top_of_the_water_carries_a_line_metres_aside(self) -> None:
        # Domain: at 4 m/s some 8 to 10 cm/s, metres within a count of sixty.
        run = simulate(rig("floating"), Cast(18.0, 60.0, STATIC, wind_speed_mps=4.0), LAKE)
        self.assertTrue(2.0 < float(bow_m(run)[run.count_end]) < 6.0)
        self.assertGreater(
            float(bow_m(run)[run.count_end]),
            3.0 * float(bow_m(simulate(rig("type-5"), Cast(18.0, 60.0, STATIC, wind_speed_mps=4.0), LAKE))[run.count_end]),
        )

    def test_more_wind_drags_sooner_and_mending_puts_it_off(self) -> None:
        def dragged(wind: float, **more: Any) -> float:
            cast = Cast(18.0, 15.0, STATIC, wind_speed_mps=wind, **more)
            found = simulate(rig("floating"), cast, LAKE).dragged_s
            return 999.0 if found is None else found

        self.assertGreater(dragged(3.0), dragged(5.0))
        self.assertGreater(dragged(5.0), dragged(8.0))
        self.assertGreater(dragged(5.0, mends_s=(20.0, 40.0, 60.0, 80.0)), 1.3 * dragged(5.0))

    def test_with_recasts_it_ends_where_it_is_dragged(self) -> None:
        cast = Cast(18.0, 15.0, STATIC, wind_speed_mps=5.0)
        whole, ended = simulate(rig("floating"), cast, LAKE), simulate(rig("floating"), replace(cast, recasts=True), LAKE)
        assert whole.dragged_s is not None
        self.assertAlmostEqual(ended.dragged_s or 0.0, whole.dragged_s, delta=0.5)
        self.assertTrue(whole.dragged_s < ended.duration_s < whole.dragged_s + 8.0 < whole.duration_s)
        # A line under the water is carried by nothing.
        self.assertIsNone(simulate(rig("type-5"), cast, LAKE).dragged_s)

    def test_a_float_on_its_line_is_dragged_sooner_the_harder_it_blows_and_fed_line_lets_it_go(self) -> None:
        hung = IndicatorRig(LEVEL, (PlacedFly(HEAVY_NYMPH),), 3.6, line=line_of_class("floating"))
        found = [
            simulate_drift(hung, Drift(for_s=180.0, wind_speed_mps=wind), LAKE).run.dragged_s or 999.0
            for wind in (1.0, 3.0, 6.0)
        ]
        self.assertTrue(found[0] == 999.0 and found[0] > found[1] > found[2], found)
        fed = simulate_drift(
            hung, Drift(for_s=180.0, wind_speed_mps=3.0, fed_mps=0.03, mends_s=(25.0, 50.0, 75.0, 100.0, 125.0)), LAKE
        )
        self.assertIsNone(fed.run.dragged_s)
        # And it has gone where the wind goes: at 6 cm/s some 5 to 11 m in three minutes, held back by what hangs.
        self.assertTrue(4.0 < float(fed.run.thread_m[-1, fed.run.float_node, 2]) < 11.0)
        self.assertTrue(fed.carried)

    def test_a_boat_that_drifts_across_takes_the_line_with_it(self) -> None:
        still, adrift = (simulate(rig("type-3"), Cast(16.0, 30.0, TWIST, tip_y_mps=tip), LAKE) for tip in (0.0, 0.15))
        self.assertFalse(still.sideways)
        self.assertAlmostEqual(float(adrift.thread_m[-1, 0, 2]), 0.15 * adrift.duration_s, delta=0.05)
        self.assertGreater(float(adrift.fly_across_m[0, -1]), 0.3 * float(adrift.thread_m[-1, 0, 2]))

    def test_a_return_flow_lets_no_water_through_on_the_whole(self) -> None:
        water = replace(LAKE, cross_drift_mps=0.1, flows_back=True)
        z = np.linspace(0.0, 9.0, 2001)
        share = (1.0 + water.back_share) * np.exp(-z / 0.5) - water.back_share
        self.assertAlmostEqual(float(np.trapezoid(share, z)), 0.0, delta=1e-3)
        away, back = (
            simulate(rig("type-5", HEAVY_NYMPH), Cast(16.0, 60.0, TWIST), one)
            for one in (replace(water, flows_back=False), water)
        )
        self.assertLess(float(back.fly_across_m[0, back.count_end]), float(away.fly_across_m[0, away.count_end]))


class ToldTests(unittest.TestCase):
    def test_what_is_told_is_what_happened(self) -> None:
        run = simulate(rig("floating"), Cast(18.0, 15.0, STATIC, wind_speed_mps=5.0), LAKE)
        side = side_of(run)
        assert side is not None
        assert side.mend_at_s is not None
        assert side.recast_at_s is not None
        self.assertLess(side.mend_at_s, side.recast_at_s)
        said = " ".join(phrase.plain() for phrase in side.words)
        for words in ("bows the line", "Mend at", "lift off and cast again", "to take up"):
            self.assertIn(words, said)
        self.assertIsNone(side_of(simulate(rig("floating"), Cast(18.0, 15.0, STATIC), LAKE)))
        every = side_of(run, (20.0, 40.0, 60.0))
        assert every is not None
        self.assertIn("every 20 s after", " ".join(phrase.plain() for phrase in every.words))

    def test_drag_is_measured_against_the_water(self) -> None:
        # A bulky fly in the film of an even drift goes with the water: it is carried, not dragged.
        run = simulate(rig("floating", FOAM_NYMPH), Cast(18.0, 15.0, STATIC, wind_speed_mps=3.0), LAKE)
        early = run.time_s < 12.0
        self.assertLess(float(np.abs(drag_mps(run)[early][3:]).max()), 0.02)
        self.assertGreater(float(run.fly_across_m[0][early].max()), 0.4)
        self.assertGreater(float(floating_m(run)[5]), 12.0)

    def test_wind_is_resolved_along_and_across_the_cast(self) -> None:
        for off, along, across in ((0.0, 0.1, 0.0), (90.0, 0.0, 0.1), (180.0, -0.1, 0.0), (45.0, 0.0707, 0.0707)):
            found = driven(Water(10.0, ((0.0, 5.0),)), 5.0, off)
            self.assertAlmostEqual(found.surface_drift_mps, along, places=4)
            self.assertAlmostEqual(found.cross_drift_mps, across, places=4)
        with self.assertRaises(OutOfRange):
            driven(LAKE, 5.0, 200.0)

    def test_mends_cut_the_program_without_changing_what_is_done(self) -> None:
        program = np.array(
            [
                [20.0, 0.0, 0, 0, 0, 0, chain.COUNTING],
                [30.0, 0.1, 0, 0, 0, 0, chain.RETRIEVING],
                [5.0, 0.4, 0, 0, 0, 0, chain.LIFTING],
            ]
        )
        mended = with_mends(program, (10.0, 20.0, 35.0, 52.0))
        self.assertEqual(mended[:, chain.FOR_S].tolist(), [10.0, 10.0, 15.0, 15.0, 5.0])
        self.assertEqual(mended[:, chain.MENDS].tolist(), [0.0, 1.0, 1.0, 1.0, 0.0])
        self.assertEqual(
            float(mended[:, chain.FOR_S] @ mended[:, chain.PULL_MPS]),
            float(program[:, chain.FOR_S] @ program[:, chain.PULL_MPS]),
        )
        for wrong in ((5.0, 5.5), tuple(float(k) for k in range(0, 100, 2))):
            with self.assertRaises(BadInput):
                check_mends(wrong)


if __name__ == "__main__":
    unittest.main()
