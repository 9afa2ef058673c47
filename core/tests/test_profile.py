"""Temperature profiles: through the readings, monotone between them, honest about the rest."""

from __future__ import annotations

import unittest
from datetime import date

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.interpolate import PchipInterpolator

from stillthread.errors import BadInput, MissingReading, OutOfRange
from stillthread.water.monotone import monotone_curve
from stillthread.water.profile import build_profile, depth_grid
from stillthread.water.reading import Reading
from stillthread.water.seasonal import Lake, season_progress, seasonal_ensemble
from tests.effort import examples

UPLAND = Lake(61.2, 412.0, 2.0)
SUMMER = date(2026, 7, 14)
WINTER = date(2026, 1, 20)


class ProfileTests(unittest.TestCase):
    def test_the_curve_runs_through_every_reading(self) -> None:
        readings = [Reading(d, t) for d, t in ((0.0, 18.6), (2.0, 18.2), (4.0, 15.0), (7.5, 9.4))]
        profile = build_profile(readings, 9.0, UPLAND, SUMMER)
        for reading in readings:
            self.assertAlmostEqual(profile.at(reading.depth_m), reading.water_c, delta=1e-6)

    @settings(max_examples=examples(60), deadline=None)
    @given(st.lists(st.floats(0.0, 30.0).map(lambda t: round(t, 3)), min_size=3, max_size=9), st.integers(0, 9))
    def test_the_monotone_curve_is_a_general_librarys(self, temperatures: list[float], seed: int) -> None:
        depth = np.cumsum(np.random.default_rng(seed).uniform(0.2, 3.0, len(temperatures)))
        at = np.linspace(depth[0], depth[-1], 57)
        ours = monotone_curve(depth, np.array(temperatures), at)
        self.assertLess(float(np.abs(ours - PchipInterpolator(depth, temperatures)(at)).max()), 1e-9)

    @settings(max_examples=examples(60), deadline=None)
    @given(st.lists(st.floats(5.0, 24.0), min_size=3, max_size=8))
    def test_falling_readings_give_a_falling_curve(self, temperatures: list[float]) -> None:
        falling = sorted(temperatures, reverse=True)
        readings = [Reading(float(i), t) for i, t in enumerate(falling)]
        profile = build_profile(readings, float(len(falling) - 1), UPLAND, SUMMER)
        self.assertLessEqual(float(np.diff(profile.water_c).max()), 1e-9)

    def test_one_deeper_reading_narrows_the_guess(self) -> None:
        surface_only = build_profile([Reading(0.0, 18.6)], 10.0, UPLAND, SUMMER)
        with_deep = build_profile([Reading(0.0, 18.6), Reading(8.0, 9.0)], 10.0, UPLAND, SUMMER)
        self.assertLess(float(with_deep.spread_c.mean()), 0.75 * float(surface_only.spread_c.mean()))

    def test_a_full_set_of_readings_is_known_to_the_thermometer(self) -> None:
        readings = [Reading(float(d), 18.0 - d) for d in range(9)]
        profile = build_profile(readings, 8.0, UPLAND, SUMMER)
        self.assertLess(float(profile.spread_c.max()), 0.4)
        self.assertEqual(profile.measured_to_m, 8.0)

    def test_a_surface_reading_alone_is_a_layered_guess_in_summer_and_even_in_spring(self) -> None:
        july = build_profile([Reading(0.0, 18.0)], 12.0, UPLAND, SUMMER)
        may = build_profile([Reading(0.0, 6.0)], 12.0, UPLAND, date(2026, 5, 12))
        self.assertGreater(float(july.water_c[0] - july.water_c[-1]), 6.0)
        self.assertLess(float(may.water_c[0] - may.water_c[-1]), 1.0)

    def test_water_nobody_read_lies_stable_under_the_last_reading(self) -> None:
        # In November the season's shape is even; a cold last reading must not make the guess below it rise.
        readings = [Reading(0.0, 14.8), Reading(4.0, 14.7), Reading(7.0, 13.9), Reading(8.5, 12.0)]
        below = build_profile(readings, 12.0, UPLAND, date(2026, 11, 25)).water_c[85:]
        self.assertLessEqual(float(np.diff(below).max()), 1e-9)
        self.assertGreaterEqual(float(below.min()), 4.0)

    def test_winter_water_under_four_degrees_warms_with_depth(self) -> None:
        profile = build_profile([Reading(0.0, 1.0)], 10.0, UPLAND, WINTER)
        self.assertGreater(float(profile.water_c[-1]), 3.0)

    def test_the_seasons_are_half_a_year_apart_in_the_south(self) -> None:
        north, south = Lake(41.3, 780.0, 2.0), Lake(-41.3, 780.0, 2.0)
        self.assertAlmostEqual(season_progress(north, date(2026, 7, 15)), season_progress(south, date(2026, 1, 14)), delta=0.02)

    def test_ensemble_weights_sum_to_one_and_curves_keep_the_surface(self) -> None:
        curves, weights = seasonal_ensemble(np.arange(0.0, 10.0), 17.0, UPLAND, SUMMER)
        self.assertAlmostEqual(float(weights.sum()), 1.0)
        self.assertLess(float(np.abs(curves[:, 0] - 17.0).max()), 1e-9)

    def test_the_grid_ends_at_the_bottom(self) -> None:
        self.assertEqual(depth_grid(0.35)[-1], 0.35)
        self.assertAlmostEqual(depth_grid(9.0)[-1], 9.0)

    def test_refusals_name_what_is_wrong(self) -> None:
        with self.assertRaises(MissingReading) as missing:
            build_profile([Reading(3.0, 12.0)], 9.0, UPLAND, SUMMER)
        self.assertEqual(missing.exception.message, "A temperature at the surface is needed. Give one at 1 m or less.")
        with self.assertRaises(BadInput) as twice:
            build_profile([Reading(0.0, 12.0), Reading(2.0, 11.0), Reading(2.0, 10.0)], 9.0, UPLAND, SUMMER)
        self.assertEqual(twice.exception.message, "Two readings at 2 m: keep one.")
        with self.assertRaises(OutOfRange):
            Reading(2.0, 41.0)
        with self.assertRaises(OutOfRange):
            build_profile([Reading(0.0, 12.0)], 0.1, UPLAND, SUMMER)
