"""What the trade says of lines, tips, teams and indicators, held against the simulation.

All of it is common practice, no published source. Tolerances are as wide as the sayings are loose; where a saying and
the simulation part, docs/physics.md tells why.
"""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from stillthread.errors import FloatArray
from stillthread.sinking import chain
from stillthread.sinking.cast import Cast, CastResult, level_water, simulate
from stillthread.sinking.doubts import CALIBRATED_SPREAD, CASTS, COUNTS, DRIFTS, FLIES, LOOPED, PACES, RATE, SLACKS
from stillthread.sinking.indicator import (
    Drift,
    DriftResult,
    Indicator,
    IndicatorRig,
    simulate_drift,
)
from stillthread.sinking.retrieves import RETRIEVES, retrieve_named
from stillthread.sinking.spread import DESIGN, doubted_rig, simulate_spread
from stillthread.sinking.thread import QUICK
from stillthread.sinking.troll import Troll, simulate_troll
from stillthread.tackle.flies import Fly
from stillthread.tackle.leaders import Hardware, Leader, LeaderSection, tapered_leader
from stillthread.tackle.lines import FOOT_M, LINE_CLASSES, Line, Stretch, line_of_class, own_line
from stillthread.tackle.rig import PlacedFly, Rig
from tests.rigs import FOAM_NYMPH, HEAVY_NYMPH, LIGHT_NYMPH, rig

PUPA = Fly(name="plain brown pupa", hook_size=12, dressing="slim", wire="fine")
NINE_FEET = Leader("9 ft", (LeaderSection(1.2, 0.00045, "nylon"), LeaderSection(1.5, 0.0002)))
LEVEL = Leader("level", (LeaderSection(0.9, 0.0004, "nylon"), LeaderSection(5.0, 0.00018)))
LAKE = level_water(12.0, 20.0)
STRIPS = retrieve_named("strip-pause", 0.25)  # a lively strip: ten inches a second
FIFTEEN_FEET_M = 15.0 * FOOT_M


def feet(result: CastResult, fly: int = 0) -> tuple[float, float]:
    low, high = result.middle_depth_m(fly)
    return low / FOOT_M, high / FOOT_M


class LineTests(unittest.TestCase):
    def test_a_midge_tip_fishes_the_second_foot_at_a_lively_strip(self) -> None:
        # Said: 1 to 1.5 ft. Found: 1.0 to 2.1 ft at ten inches a second; slower hands let it down to 4 ft.
        low, high = feet(simulate(rig("short-slow-tip", PUPA, NINE_FEET), Cast(18.0, 5.0, STRIPS), LAKE))
        self.assertTrue(0.8 < low < 1.5 < high < 2.3, (low, high))
        slow = feet(simulate(rig("short-slow-tip", PUPA, NINE_FEET), Cast(18.0, 5.0, retrieve_named("slow-twist", 0.1)), LAKE))
        self.assertGreater(slow[1], 3.5)

    def test_a_two_inch_intermediate_covers_two_to_five_feet(self) -> None:
        low, high = feet(simulate(rig("fast-intermediate", PUPA, NINE_FEET), Cast(18.0, 10.0, STRIPS), LAKE))
        self.assertTrue(1.0 < low < 2.5 and 4.5 < high < 6.5, (low, high))

    def test_a_sink_tip_holds_a_level_that_a_full_sinker_does_not(self) -> None:
        def change(key: str) -> float:
            result = simulate(rig(key, PUPA, NINE_FEET), Cast(18.0, 20.0, retrieve_named("slow-twist", 0.1)), LAKE)
            share = np.linspace(0.3, 0.9, 13)
            times = result.time_s[result.count_end] + share * (result.duration_s - result.time_s[result.count_end])
            return float(np.ptp(np.interp(times, result.time_s, result.fly_depth_m[0])))

        self.assertLess(change("slow-tip"), 0.5)
        self.assertGreater(change("fast-intermediate"), 1.5)

    def test_a_fast_tip_with_a_long_leader_and_a_weighted_point_works_at_twenty_to_thirty_feet(self) -> None:
        twenty = Leader("20 ft", (LeaderSection(1.2, 0.00045, "nylon"), LeaderSection(4.9, 0.0002)))
        team = (PlacedFly(HEAVY_NYMPH), PlacedFly(LIGHT_NYMPH, 1.8), PlacedFly(LIGHT_NYMPH, 3.6))
        tied = Rig(line_of_class("fast-tip"), twenty, team)
        result = simulate(tied, Cast(22.0, 45.0, retrieve_named("slow-twist", 0.1)), LAKE)
        low, high = feet(result)
        self.assertTrue(low < 25.0 < high + 5.0 and 20.0 < high < 36.0, (low, high))
        # The upper flies are sacrificial: each lies higher than the one below it.
        self.assertEqual([feet(result, k)[1] for k in range(3)], sorted((feet(result, k)[1] for k in range(3)), reverse=True))

    def test_a_swept_belly_dives_and_climbs_more_than_a_level_line(self) -> None:
        def path(key: str) -> FloatArray:
            cast = Cast(18.0, 15.0, RETRIEVES["strip-pause"])
            return np.asarray(simulate(rig(key, PUPA, NINE_FEET), cast, LAKE).fly_depth_m[0])

        sweep = path("fast-belly-5")
        self.assertGreater(float(sweep.max()), sweep[-1] + 2.0)
        self.assertLess(float(sweep.max()), float(path("type-5").max()))  # its slow ends hold it up

    def test_a_profile_of_ones_own_and_a_looped_leader_sink_as_their_parts(self) -> None:
        tip = LINE_CLASSES["slow-tip"]
        same = own_line("mine", 6, (Stretch(tip.shape[0][0], tip.label_sink_rate_mps), Stretch(20.0, 0.0)))
        cast = Cast(18.0, 15.0, STRIPS)
        by_class = simulate(rig("slow-tip", PUPA), cast, LAKE)
        by_parts = simulate(Rig(same, rig("slow-tip").leader, (PlacedFly(PUPA),)), cast, LAKE)
        self.assertTrue(np.array_equal(by_class.fly_depth_m, by_parts.fly_depth_m))
        looped = Line("floater and leader", "floating", 6, 0.0, looped=Stretch(3.0, 0.09))
        with_leader = simulate(Rig(looped, NINE_FEET, (PlacedFly(PUPA),)), cast, LAKE)
        self.assertGreater(with_leader.deepest_m(), simulate(rig("floating", PUPA, NINE_FEET), cast, LAKE).deepest_m() + 0.3)

    def test_line_fed_through_the_count_falls_level_and_held_tight_swings_in(self) -> None:
        tight = simulate(rig("type-5"), Cast(18.0, 25.0, STRIPS), LAKE)
        loose = simulate(rig("type-5"), Cast(18.0, 25.0, STRIPS, loose=True), LAKE)
        self.assertGreater(loose.fly_distance_m[0, loose.count_end], tight.fly_distance_m[0, tight.count_end])
        # Three metres of line further out hang as deep as the sum says.
        self.assertAlmostEqual(loose.line_end_depth_m / loose.plain_sum_m, 1.0, delta=0.1)

    def test_a_boat_drifting_on_to_its_flies_lets_them_sink_deeper(self) -> None:
        still = simulate(rig("type-3"), Cast(18.0, 10.0, STRIPS), LAKE)
        drifting = simulate(rig("type-3"), Cast(18.0, 10.0, STRIPS, tip_mps=0.15), LAKE)
        self.assertGreater(drifting.deepest_m(), still.deepest_m() + 0.1)

    def test_a_troll_runs_at_the_depth_of_its_speed(self) -> None:
        depths = [simulate_troll(rig("type-5", HEAVY_NYMPH), Troll(25.0, v), LAKE).hang_depth_m() for v in (0.3, 0.6, 1.2)]
        self.assertEqual(depths, sorted(depths, reverse=True))
        long = simulate_troll(rig("type-5", HEAVY_NYMPH), Troll(200.0, 2.0, for_s=60.0), LAKE)
        self.assertTrue(np.isfinite(long.thread_m).all())

    def test_a_greased_leader_holds_the_fly_up(self) -> None:
        greased = Leader("greased", (LeaderSection(3.0, 0.0002, "nylon", greased=True), LeaderSection(0.7, 0.0002)))
        plain = Leader("plain", (LeaderSection(3.0, 0.0002, "nylon"), LeaderSection(0.7, 0.0002)))
        static = Cast(18.0, 60.0, RETRIEVES["static"])
        up, down = (simulate(rig("floating", PUPA, leader), static, LAKE).deepest_m() for leader in (greased, plain))
        self.assertLess(up, 1.3)
        self.assertGreater(down, up + 1.0)


class TeamTests(unittest.TestCase):
    def test_a_buoyant_fly_on_a_short_leader_rides_above_a_fast_line_and_dips_on_the_pull(self) -> None:
        short = Leader("4 ft", (LeaderSection(1.2, 0.00025),))
        result = simulate(rig("type-7", FOAM_NYMPH, short), Cast(18.0, 25.0, RETRIEVES["long-pull"]), level_water(12.0, 6.0))
        self.assertLess(result.start_depth_m(), result.line_end_depth_m - 0.5)
        working = (result.phase == chain.RETRIEVING) & (result.time_s < 0.6 * result.duration_s)
        sinking = np.diff(result.fly_depth_m[0], append=result.fly_depth_m[0, -1])[working]
        speed = result.speed_mps()[working]
        pulled, resting = sinking[speed > np.quantile(speed, 0.8)], sinking[speed < np.quantile(speed, 0.4)]
        self.assertGreater(float(pulled.mean()), float(resting.mean()) + 0.01)
        self.assertEqual(float(result.contact_s[0]), 0.0)

    def test_a_heavy_middle_fly_drags_a_washing_line_under(self) -> None:
        leader = Leader("18 ft", (LeaderSection(1.2, 0.00045, "nylon"), LeaderSection(4.2, 0.0002)))
        buoyant = Fly(name="foam-eyed point", hook_size=10, dressing="bulky", foam_mm3=120.0)

        def point_depth(middle: Fly) -> float:
            team = (PlacedFly(buoyant), PlacedFly(middle, 1.8), PlacedFly(LIGHT_NYMPH, 3.6))
            tied = Rig(line_of_class("floating"), leader, team)
            result = simulate(tied, Cast(20.0, 20.0, RETRIEVES["slow-twist"]), LAKE)
            depths = [result.middle_depth_m(k)[1] for k in range(3)]
            self.assertLess(depths[0], depths[1])  # the point rides above the middle
            return depths[0]

        self.assertLess(point_depth(LIGHT_NYMPH), 0.9)
        self.assertGreater(point_depth(HEAVY_NYMPH), 2.0)

    def test_a_denser_line_takes_the_whole_washing_line_down(self) -> None:
        leader = Leader("18 ft", (LeaderSection(1.2, 0.00045, "nylon"), LeaderSection(4.2, 0.0002)))
        team = (
            PlacedFly(Fly(name="foam-eyed point", hook_size=10, dressing="bulky", foam_mm3=120.0)),
            PlacedFly(LIGHT_NYMPH, 1.8),
        )
        depths = [
            simulate(Rig(line_of_class(key), leader, team), Cast(20.0, 20.0, STRIPS), LAKE).middle_depth_m(1)[1]
            for key in ("floating", "intermediate", "type-3")
        ]
        self.assertEqual(depths, sorted(depths))

    def test_a_tank_test_of_ones_own_wins_over_the_recipe(self) -> None:
        for rate in (-0.05, 0.02, 0.3):
            self.assertAlmostEqual(Fly(name="tested", hook_size=10, dressing="bulky", bead="brass", bead_mm=3.0, measured_sink_mps=rate).sink_rate_mps(),
                                   rate, delta=1e-6)  # fmt: skip
        dry, wet = (
            Fly(name="bulky", hook_size=10, dressing="bulky", wetted=wetted).sink_rate_mps() for wetted in (False, True)
        )
        self.assertLess(dry, wet)


class IndicatorTests(unittest.TestCase):
    def hung(self, fly: Fly, leader: Leader = LEVEL, *, wind_mps: float = 0.0, for_s: float = 240.0) -> DriftResult:
        return simulate_drift(
            IndicatorRig(leader, (PlacedFly(fly),), FIFTEEN_FEET_M), Drift(for_s=for_s, wind_speed_mps=wind_mps), LAKE
        )

    def test_a_light_fly_takes_a_minute_or_more_to_hang_at_fifteen_feet_and_weight_is_quicker(self) -> None:
        light, heavy = self.hung(PUPA), self.hung(HEAVY_NYMPH)
        self.assertGreater(light.hanging_s(), 60.0)
        self.assertLess(heavy.hanging_s(), 40.0)
        swivel = Leader("swivel", LEVEL.sections, (Hardware("swivel", 0.6),))
        shot = Leader("shot", LEVEL.sections, (Hardware("shot-1", 0.3),))
        self.assertGreater(light.hanging_s(), self.hung(PUPA, swivel).hanging_s() + 20.0)
        self.assertGreater(self.hung(PUPA, swivel).hanging_s(), self.hung(PUPA, shot).hanging_s())

    def test_a_thick_butt_hangs_in_an_arc_and_fishes_shallower_than_a_level_leader(self) -> None:
        # In a calm it is a matter of time, two minutes here; in a drift the arc stays.
        tapered = tapered_leader(5.4, 4)
        for wind_mps, for_s in ((0.0, 120.0), (3.0, 240.0)):
            thick, level = (self.hung(LIGHT_NYMPH, leader, wind_mps=wind_mps, for_s=for_s) for leader in (tapered, LEVEL))
            self.assertGreater(thick.shortfall_m[0], level.shortfall_m[0] + 0.3)

    def test_a_hanging_leader_is_as_deep_as_it_is_long_whatever_it_weighs(self) -> None:
        for fly in (PUPA, HEAVY_NYMPH):
            self.assertLess(abs(float(self.hung(fly).shortfall_m[0])), 0.1)

    def test_four_to_six_inches_off_the_bottom_can_be_set_and_kept(self) -> None:
        for clear_m in (4 * 0.0254, 6 * 0.0254):
            set_up = IndicatorRig(LEVEL, (PlacedFly(HEAVY_NYMPH),), 4.5 - clear_m)
            found = simulate_drift(set_up, Drift(for_s=180.0, wind_speed_mps=1.0), level_water(10.0, 4.5))
            self.assertEqual(float(found.run.contact_s[0]), 0.0)
            self.assertLess(4.5 - found.run.hang_depth_m(), 0.30)

    def test_flies_hang_at_set_depth_less_their_place_and_drift_lifts_the_light_ones(self) -> None:
        team = (PlacedFly(HEAVY_NYMPH), PlacedFly(LIGHT_NYMPH, 1.2), PlacedFly(LIGHT_NYMPH, 2.4))
        calm = simulate_drift(IndicatorRig(LEVEL, team, 4.6), Drift(for_s=180.0, wind_speed_mps=0.0), LAKE)
        self.assertLess(float(np.abs(calm.shortfall_m).max()), 0.05)
        lift = [float(self.hung(LIGHT_NYMPH, wind_mps=w).shortfall_m[0]) for w in (0.0, 2.0, 4.0, 6.0)]
        self.assertEqual(lift, sorted(lift))
        self.assertLess(float(self.hung(HEAVY_NYMPH, wind_mps=4.0).shortfall_m[0]), 0.2)

    def test_a_twitch_lifts_the_fly_and_lets_it_drop(self) -> None:
        set_up = IndicatorRig(LEVEL, (PlacedFly(HEAVY_NYMPH),), 2.0)
        depth = simulate_drift(set_up, Drift(for_s=120.0, wind_speed_mps=0.0, twitch_every_s=40.0), LAKE).run
        after = depth.fly_depth_m[0][(depth.time_s > 40.0) & (depth.time_s < 50.0)]
        self.assertGreater(float(np.ptp(after)), 0.002)
        self.assertAlmostEqual(depth.hang_depth_m(), 2.0, delta=0.02)

    def test_a_small_float_does_not_carry_a_heavy_team(self) -> None:
        heavy = tuple(PlacedFly(HEAVY_NYMPH, k * 0.8) for k in range(3))
        for width_m, carried in ((0.008, False), (0.025, True)):
            set_up = IndicatorRig(LEVEL, heavy, 4.0, Indicator(diameter_m=width_m))
            self.assertEqual(simulate_drift(set_up, Drift(for_s=120.0), LAKE).carried, carried)


class SpreadTests(unittest.TestCase):
    def test_a_calibrated_line_is_known_better_than_a_label(self) -> None:
        cast = Cast(18.0, 30.0, STRIPS)
        label = simulate_spread(rig("type-5"), cast, LAKE)
        timed = rig("type-5")
        timed = replace(timed, line=replace(timed.line, rate_spread=float(CALIBRATED_SPREAD)))
        known = simulate_spread(timed, cast, LAKE)
        self.assertLess(float(known.spread_m.max()), 0.8 * float(label.spread_m.max()))
        self.assertGreater(float(label.spread_m.max()), 0.2)
        self.assertEqual(label.spread_m.shape, label.middle.fly_depth_m.shape)

    def test_every_doubt_widens_the_band(self) -> None:
        cast = Cast(18.0, 40.0, STRIPS, wind_speed_mps=4.0)
        tied = rig("intermediate", PUPA)
        looped = replace(tied, line=replace(tied.line, looped=Stretch(3.0, 0.08)))
        design = DESIGN.copy()
        for column in (RATE, CASTS, COUNTS, PACES, SLACKS, DRIFTS, FLIES):
            alone = np.where(np.arange(design.shape[1]) == column, design, 0.0)
            runs = [simulate(doubted_rig(tied, x), cast.doubted(tied, x), LAKE, mesh=QUICK) for x in alone]
            moments = np.array([[run.start_depth_m(), run.deepest_m(), run.hang_depth_m()] for run in runs])
            self.assertGreater(float(np.ptp(moments, axis=0).max()), 5e-3, column)
        only = np.where(np.arange(design.shape[1]) == LOOPED, design, 0.0)
        runs = [simulate(doubted_rig(looped, x), cast, LAKE, mesh=QUICK) for x in only]
        self.assertGreater(float(np.ptp([run.start_depth_m() for run in runs])), 0.01)

    def test_a_tank_tested_fly_is_known_better_and_a_neutral_one_is_not_known_exactly(self) -> None:
        cast = Cast(18.0, 30.0, STRIPS)
        rate = PUPA.sink_rate_mps()
        told, tested, neutral = (
            simulate_spread(rig("floating", fly), cast, LAKE).spread_m.max()
            for fly in (PUPA, replace(PUPA, measured_sink_mps=rate), replace(PUPA, measured_sink_mps=0.0))
        )
        self.assertLess(float(tested), float(told))
        self.assertGreater(float(neutral), 0.02)
