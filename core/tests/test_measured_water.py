"""Oxygen, odd readings, several lowerings in a day, and ice."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, datetime, timedelta
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.depth.picture import read_water
from stillthread.errors import BadInput, MissingReading, OnIce, OutOfRange
from stillthread.plan.box import Box
from stillthread.plan.choose import choose
from stillthread.rules.water_rules import WaterRules
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from stillthread.water.comfort import SPECIES
from stillthread.water.outliers import flag_outliers
from stillthread.water.oxygen import OxygenReading, demand_mgm2d, oxygen_profile, oxygen_saturation_mgl, oxygen_share
from stillthread.water.profile import build_profile
from stillthread.water.reading import Lowering, Reading, readings_now
from stillthread.water.seasonal import Lake
from tests.effort import examples
from tests.rigs import SUMMER_READINGS, SUMMER_TIME, conditions

SUMMER = (18.6, 18.5, 18.4, 18.0, 16.8, 14.6, 12.5, 11.2, 10.2)
MORNING = datetime(2026, 7, 14, 7, 30, tzinfo=SUMMER_TIME)


def column(*temperatures: float, trusted: tuple[int, ...] = ()) -> list[Reading]:
    return [Reading(float(d), t, d in trusted) for d, t in enumerate(temperatures)]


class OddReadingTests(unittest.TestCase):
    def test_a_typing_error_is_flagged_and_the_curve_passes_it_by(self) -> None:
        typo = column(18.6, 18.5, 18.4, 8.0, 16.8, 14.6, 12.5, 11.2, 10.2)
        profile = build_profile(typo, 8.0, Lake(61.2, 412.0, 2.0), date(2026, 7, 14))
        self.assertEqual([flag.reading.depth_m for flag in profile.flags], [3.0])
        self.assertIn("8.0 C at 3.0 m can't lie so with 16.8 C at 4.0 m", profile.flags[0].why.plain())
        self.assertAlmostEqual(profile.at(3.0), 17.8, delta=0.6)
        self.assertEqual(len(profile.readings), 9)  # shown, not dropped

    def test_a_reading_the_angler_checked_is_followed_and_still_flagged(self) -> None:
        checked = column(18.6, 18.5, 18.4, 8.0, 16.8, trusted=(3,))
        profile = build_profile(checked, 8.0, Lake(61.2, 412.0, 2.0), date(2026, 7, 14))
        self.assertTrue(profile.flags[0].followed)
        self.assertAlmostEqual(profile.at(3.0), 8.0)

    def test_water_that_warms_with_depth_under_four_degrees_is_as_it_should_be(self) -> None:
        self.assertEqual(flag_outliers(column(0.5, 1.5, 2.5, 3.4, 3.9)), ())
        self.assertEqual(len(flag_outliers(column(3.9, 3.4, 2.5, 1.5, 0.5))), 3)

    def test_a_sharp_thermocline_is_no_typing_error(self) -> None:
        self.assertEqual(flag_outliers(column(20.0, 20.0, 19.8, 9.0, 8.5)), ())

    def test_of_two_readings_that_contradict_each_other_one_is_doubted(self) -> None:
        flags = flag_outliers([Reading(0.0, 9.0), Reading(6.0, 16.0)])
        self.assertEqual([flag.reading.depth_m for flag in flags], [6.0])

    @settings(max_examples=examples(60), deadline=None)
    @given(st.lists(st.floats(4.0, 25.0), min_size=3, max_size=9), st.integers(0, 8), st.floats(4.0, 30.0))
    def test_what_is_left_could_always_lie_so(self, temperatures: list[float], at: int, error_c: float) -> None:
        falling = sorted(temperatures, reverse=True)
        falling[at % len(falling)] += error_c if falling[at % len(falling)] + error_c < 39.0 else 0.0
        readings = column(*falling)
        odd = {flag.reading.depth_m for flag in flag_outliers(readings)}
        kept = [r.water_c for r in readings if r.depth_m not in odd]
        self.assertLessEqual(max((b - a for i, a in enumerate(kept) for b in kept[i:]), default=0.0), 1.2 + 1e-9)
        self.assertLessEqual(len(odd), len(readings) // 2)

    def test_a_loggers_longest_record_of_nothing_but_nonsense_is_sorted_out(self) -> None:
        """Two thousand readings, warm and cold in turn, took two minutes when every pair was looked at anew."""
        readings = [Reading(0.01 * i, 18.0 if i % 2 else 5.0) for i in range(2000)]
        flags = flag_outliers(readings)
        self.assertEqual(len(flags), 1000)
        odd = {flag.reading.depth_m for flag in flags}
        self.assertEqual(flag_outliers([r for r in readings if r.depth_m not in odd]), ())
        picture = read_water(conditions(readings=tuple(readings), bottom_depth_m=20.0))
        self.assertEqual(len(picture.profile.flags), 1000)


class LoweringTests(unittest.TestCase):
    def test_the_newest_counts_and_an_older_one_goes_on_below_it(self) -> None:
        dawn = Lowering(MORNING, tuple(column(*SUMMER)))
        noon = Lowering(MORNING + timedelta(hours=5), (Reading(0.0, 20.1), Reading(2.0, 18.9)))
        now, earlier = readings_now([dawn, noon])
        self.assertEqual([(r.depth_m, r.water_c) for r in now[:3]], [(0.0, 20.1), (2.0, 18.9), (4.0, 16.8)])
        self.assertEqual(earlier, (dawn,))

    def test_without_any_reading_it_says_what_is_needed(self) -> None:
        with self.assertRaises(MissingReading):
            readings_now([])

    def test_the_picture_says_how_the_top_has_changed(self) -> None:
        early = (Lowering(MORNING, (Reading(0.0, 17.2),)),)
        trend = read_water(conditions(earlier=early)).trend
        self.assertEqual(trend.plain() if trend else "", "The top was 17.2 C at 07:30 and has warmed to 18.6 C.")


class OxygenTests(unittest.TestCase):
    GRID = np.arange(0.0, 12.1, 0.1)
    WATER = np.interp(GRID, (0.0, 5.0, 8.0, 12.0), (18.0, 18.0, 9.0, 8.0))

    def test_without_readings_it_is_saturation_less_a_doubtful_deficit_under_the_thermocline(self) -> None:
        spring = oxygen_profile(self.GRID, self.WATER, 412.0, 6.0, layered_d=10.0)
        autumn = oxygen_profile(self.GRID, self.WATER, 412.0, 6.0, layered_d=130.0)
        self.assertAlmostEqual(float(spring.oxygen_mgl[0]), oxygen_saturation_mgl(18.0, 412.0))
        self.assertLess(float(autumn.oxygen_mgl[-1]), 0.5 * float(spring.oxygen_mgl[-1]))
        self.assertGreater(float(autumn.spread_mgl[-1]), 2.0)  # and it says that it hardly knows
        self.assertIsNone(autumn.measured_to_m)

    def test_readings_are_met_and_a_gap_in_mid_water_leaves_two_livable_bands(self) -> None:
        read = tuple(OxygenReading(d, mgl) for d, mgl in ((0.0, 9.0), (4.0, 8.5), (6.0, 3.5), (7.5, 6.5), (9.0, 6.0)))
        found = oxygen_profile(self.GRID, self.WATER, 412.0, 6.0, read)
        for one in read:
            self.assertAlmostEqual(float(np.interp(one.depth_m, self.GRID, found.oxygen_mgl)), one.oxygen_mgl, places=6)
        picture = read_water(conditions(oxygen=read))
        self.assertEqual(len(picture.livable_bands), 2)
        (_, gap_top), (gap_bottom, _) = picture.livable_bands
        # By hand on the straight lines: 5 mg/L is crossed at 4 + 2 * 3.5/5 = 5.4 m and 6 + 1.5 * 1.5/3 = 6.75 m.
        self.assertAlmostEqual(gap_top, 5.4, delta=0.11)
        self.assertAlmostEqual(gap_bottom, 6.75, delta=0.11)
        self.assertIn("gap in mid-water", next(f.why.plain() for f in picture.belief.factors if f.key == "oxygen"))

    def test_comfort_needs_breath_and_livable_water_is_neither_hot_nor_spent(self) -> None:
        hot = tuple(column(22.0, 21.8, 21.5, 21.0, 18.0, 14.5, 12.0, 11.0, 10.0))
        spent = (OxygenReading(0.0, 8.5), OxygenReading(5.0, 7.0), OxygenReading(6.0, 3.0), OxygenReading(8.0, 1.0))
        picture = read_water(conditions(readings=hot, oxygen=spent))
        # Rainbows: comfortable under 18 C, that is from 4 m, livable under 20 C; 5 mg/L is crossed half-way from 5 to 6 m.
        (comfort,), (livable,) = picture.comfort_bands, picture.livable_bands
        self.assertAlmostEqual(comfort[0], 4.0, delta=0.15)
        self.assertAlmostEqual(comfort[1], 5.5, delta=0.15)
        self.assertTrue(3.0 < livable[0] < comfort[0])
        self.assertEqual(livable[1], comfort[1])

    def test_measured_lack_drives_the_belief_out_of_the_deep(self) -> None:
        read = (OxygenReading(0.0, 9.0), OxygenReading(4.0, 8.8), OxygenReading(5.0, 2.0), OxygenReading(8.0, 0.5))
        plenty = tuple(OxygenReading(depth, 9.0) for depth in (0.0, 4.0, 8.0))
        free, short = read_water(conditions(oxygen=plenty)), read_water(conditions(oxygen=read))
        below = free.belief.depth_m > 5.5
        self.assertLess(float(short.belief.mass()[below].sum()), 0.25 * float(free.belief.mass()[below].sum()))

    def test_below_the_last_reading_oxygen_never_comes_back(self) -> None:
        found = oxygen_profile(self.GRID, self.WATER, 412.0, 6.0, (OxygenReading(0.0, 9.0), OxygenReading(7.0, 1.0)))
        self.assertLessEqual(float(found.oxygen_mgl[70:].max()), 1.0)

    def test_readings_near_the_top_say_nothing_of_the_deep(self) -> None:
        read = (OxygenReading(0.0, 9.5), OxygenReading(1.5, 9.4), OxygenReading(3.0, 9.3))
        said = next(f.why.plain() for f in read_water(conditions(oxygen=read)).belief.factors if f.key == "oxygen")
        self.assertIn("enough down to 3.0 m", said)
        self.assertIn("Below 3.0 m nothing was read", said)
        self.assertIn("doubted", said)
        whole = (*read, OxygenReading(6.0, 8.0), OxygenReading(8.5, 7.0))
        said = next(f.why.plain() for f in read_water(conditions(oxygen=whole)).belief.factors if f.key == "oxygen")
        self.assertIn("enough at every depth", said)

    def test_one_odd_value_is_flagged_and_splits_nothing_until_it_is_trusted(self) -> None:
        values = ((0.0, 9.4), (2.0, 9.4), (4.0, 3.1), (6.0, 9.5), (8.0, 9.0))
        read = tuple(OxygenReading(*one) for one in values)
        odd = read_water(conditions(oxygen=read))
        self.assertEqual([flag.reading.oxygen_mgl for flag in odd.oxygen.flags], [3.1])
        self.assertIn("stands alone between 9.4 mg/L and 9.5 mg/L", odd.oxygen.flags[0].why.plain())
        self.assertEqual(len(odd.livable_bands), 1)
        self.assertEqual(len(odd.oxygen.readings), 5)
        trusted = read_water(conditions(oxygen=tuple(replace(r, trusted=r.oxygen_mgl == 3.1) for r in read)))
        self.assertEqual(len(trusted.livable_bands), 2)
        self.assertIn("Followed", trusted.oxygen.flags[0].why.plain())
        # Two low readings in a row are a layer.
        layer = (*read[:3], OxygenReading(5.0, 3.4), *read[3:])
        self.assertEqual(read_water(conditions(oxygen=layer)).oxygen.flags, ())

    def test_deep_water_is_doubted_more_where_much_grows_where_it_is_thin_and_late(self) -> None:
        def left(**changes: Any) -> float:
            found = oxygen_profile(self.GRID, self.WATER, 412.0, 6.0, **changes)
            return float(found.oxygen_mgl[-1])

        usual = left()
        self.assertLess(left(secchi_m=1.2), usual)
        self.assertGreater(left(secchi_m=6.0), usual)
        self.assertGreater(left(deepest_m=40.0), usual)
        self.assertLess(left(layered_d=110.0), usual)
        # mortimer-1941 and carlson-1977: 250 mg/m2 a day where one sees 4 m, 550 at 2 m.
        self.assertAlmostEqual(demand_mgm2d(4.0), 250.0)
        self.assertAlmostEqual(demand_mgm2d(2.0), 550.0)

        def why(**changes: Any) -> str:
            return next(f.why.plain() for f in read_water(conditions(**changes)).belief.factors if f.key == "oxygen")

        self.assertIn("one sees only", why(secchi_m=0.8, bottom_depth_m=12.0))
        self.assertIn("to draw on", why(bottom_depth_m=6.5))

    def test_published_needs_hold(self) -> None:
        # raleigh-1984: about 3 mg/L the least, 7 mg/L best to 15 C and 9 above; epa-1986: 5 mg/L between.
        self.assertEqual(float(oxygen_share(2.0, 12.0)), 0.0)
        self.assertEqual([float(oxygen_share(mgl, t)) for mgl, t in ((7.0, 14.0), (9.0, 18.0))], [1.0, 1.0])
        self.assertLess(float(oxygen_share(7.0, 18.0)), 0.85)

    def test_refusals(self) -> None:
        with self.assertRaises(OutOfRange):
            OxygenReading(1.0, 26.0)
        with self.assertRaises(BadInput) as twice:
            oxygen_profile(self.GRID, self.WATER, 0.0, None, (OxygenReading(1.0, 8.0), OxygenReading(1.0, 7.0)))
        self.assertEqual(twice.exception.message, "Two oxygen readings at 1 m: keep one.")


class IceTests(unittest.TestCase):
    def test_no_plan_is_made_on_ice_and_the_picture_says_stop(self) -> None:
        for picture in (
            read_water(conditions(readings=(Reading(0.0, 0.0), Reading(4.0, 3.2)))),
            read_water(conditions(ice=True)),
        ):
            self.assertEqual((picture.cautions[0].key, picture.cautions[0].level), ("ice", "stop"))
            with self.assertRaises(OnIce):
                choose(picture, Box(lines=starter_lines(), flies=STARTER_FLIES), WaterRules())

    def test_open_water_just_above_freezing_is_planned_with_the_caution(self) -> None:
        picture = read_water(conditions(readings=(Reading(0.0, 0.8),)))
        self.assertFalse(picture.iced)
        self.assertEqual(picture.cautions[0].key, "ice")


class SpeciesTests(unittest.TestCase):
    def test_char_keep_to_colder_water_than_rainbows(self) -> None:
        char = read_water(conditions(species=SPECIES["char"])).belief.mean_m
        self.assertGreater(char, read_water(conditions(species=SPECIES["rainbow"])).belief.mean_m)
        self.assertEqual(len(SUMMER_READINGS), 9)
