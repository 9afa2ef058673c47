"""What a wind does, against published waves and hand-worked balances; and the day strip against the sun."""

from __future__ import annotations

import math
import unittest
from datetime import datetime, timedelta, timezone
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.depth.day import DAY_SWING_C, Forecast, day_strip
from stillthread.depth.picture import read_water
from stillthread.errors import BadInput, OutOfRange
from stillthread.water.hypsography import Hypsography
from stillthread.water.profile import build_profile
from stillthread.water.reading import Reading
from stillthread.water.seasonal import Lake
from stillthread.water.stratification import find_layers
from stillthread.weather.effects import boat_drift_mps, compass_word, thermocline_tilt, wind_effects
from stillthread.weather.sun import Place, sun_times
from stillthread.weather.waves import smb_waves, spm_waves, waves
from stillthread.weather.wind import Wind
from tests.effort import examples
from tests.rigs import SUMMER_TIME, conditions

BRITISH_SUMMER = timezone(timedelta(hours=1))
HALF_A_PRINTED_MM = 0.0006
HALF_A_MINUTE = timedelta(seconds=45)


class WaveTests(unittest.TestCase):
    def test_heights_and_periods_are_the_printed_ones(self) -> None:
        # spm-1984 and smb-1973, worked values: U 5 m/s over 1 km, U 8 m/s over 3 km.
        for wind, fetch, spm, smb in ((5.0, 1000.0, (0.083, 1.08), (0.110, 1.27)), (8.0, 3000.0, (0.256, 1.88), (0.300, 2.10))):
            height, period = spm_waves(wind, fetch)
            self.assertAlmostEqual(height, spm[0], delta=HALF_A_PRINTED_MM)
            self.assertAlmostEqual(period, spm[1], delta=0.006)
            height, period = smb_waves(wind, fetch)
            self.assertAlmostEqual(height, smb[0], delta=HALF_A_PRINTED_MM)
            self.assertAlmostEqual(period, smb[1], delta=0.006)

    @settings(max_examples=examples(60), deadline=None, derandomize=True)
    def test_a_breath_too_small_to_square_is_a_calm(self) -> None:
        for wind in (5e-324, 6.1e-236, 1e-9, 0.0):
            self.assertEqual(waves(wind, 400.0), waves(0.0, 400.0))

    @given(st.floats(0.5, 25.0), st.floats(50.0, 20_000.0))
    def test_more_wind_and_more_fetch_never_make_less_wave(self, wind: float, fetch: float) -> None:
        for model in (spm_waves, smb_waves):
            self.assertGreater(model(wind * 1.2, fetch)[0], model(wind, fetch)[0])
            self.assertGreaterEqual(model(wind, fetch * 1.5)[0], model(wind, fetch)[0])

    def test_calm_is_flat_and_a_range_is_in_order(self) -> None:
        self.assertEqual((spm_waves(0.0, 500.0), smb_waves(0.0, 500.0)), ((0.0, 0.0), (0.0, 0.0)))
        found = waves(6.0, 2000.0)
        self.assertLess(found.low_m, found.high_m)
        with self.assertRaises(OutOfRange):
            waves(5.0, 0.0)


class BoatTests(unittest.TestCase):
    def test_drift_is_the_balance_of_the_two_drags(self) -> None:
        # Hand-worked at 5 m/s: 0.05 m/s of surface drift, and 5 sqrt(1.2 x 1.5 / (1000 x 0.6)) = 0.274 through the water.
        self.assertAlmostEqual(boat_drift_mps(Wind(5.0, 0.0), drogue=False), 0.05 + 0.274, delta=0.001)
        # With a drogue the area is 1.9 m2: 0.154 through the water.
        self.assertAlmostEqual(boat_drift_mps(Wind(5.0, 0.0), drogue=True), 0.05 + 0.154, delta=0.001)
        self.assertEqual(boat_drift_mps(Wind(0.0, 0.0), drogue=False), 0.0)


class TiltTests(unittest.TestCase):
    def two_layers(self, wind_mps: float, fetch_m: float = 3000.0) -> tuple[float, float, float]:
        readings = [Reading(0.0, 18.0), Reading(4.9, 18.0), Reading(5.1, 8.0), Reading(15.0, 8.0)]
        profile = build_profile(readings, 15.0, Lake(54.0, 100.0, 3.0), datetime(2026, 7, 14).date())
        layers = find_layers(profile.depth_m, profile.water_c)
        box = Hypsography((0.0, 14.99, 15.0), (1e6, 1e6, 0.0))
        tilt = thermocline_tilt(profile, layers, Wind(wind_mps, 270.0), fetch_m, box)
        assert tilt is not None
        return tilt.wedderburn, tilt.downwind_m, tilt.quarter_s

    def test_the_wedderburn_number_is_the_hand_worked_one(self) -> None:
        # g' = 9.81 (999.85 - 998.60) / 999.85 = 0.01226; u*2 = 1.3e-3 x 1.2 / 998.6 x 36 = 5.62e-5 at 6 m/s;
        # W = g' h2 / (u*2 L) = 0.01226 x 25 / (5.62e-5 x 3000) = 1.82.
        wedderburn, downwind, _ = self.two_layers(6.0)
        self.assertAlmostEqual(wedderburn, 1.82, delta=0.10)
        # Steady tilt: L/2 u*2 / (g' h) = 1.37 m at the end.
        self.assertAlmostEqual(downwind, 1.37, delta=0.10)

    def test_a_quarter_swing_takes_hours(self) -> None:
        # c = sqrt(g' h1 h2 / (h1 + h2)) = sqrt(0.01226 x 5 x 10 / 15) = 0.202 m/s; L / 2c = 2.06 h.
        self.assertAlmostEqual(self.two_layers(6.0)[2] / 3600.0, 2.06, delta=0.15)

    def test_twice_the_wind_tilts_four_times_as_much_until_the_layer_is_out(self) -> None:
        self.assertAlmostEqual(self.two_layers(6.0)[1] / self.two_layers(3.0)[1], 4.0, delta=0.01)
        self.assertLessEqual(self.two_layers(20.0)[1], 5.2)

    def test_without_layers_or_wind_there_is_no_tilt(self) -> None:
        even = read_water(conditions(readings=(Reading(0.0, 8.0), Reading(4.0, 8.0), Reading(8.5, 8.0))))
        box = Hypsography((0.0, 8.99, 9.0), (1e6, 1e6, 0.0))
        self.assertIsNone(thermocline_tilt(even.profile, even.layers, Wind(6.0, 0.0), 2000.0, box))
        layered = read_water(conditions())
        self.assertIsNone(thermocline_tilt(layered.profile, layered.layers, Wind(0.0, 0.0), 2000.0, box))

    def test_of_a_lake_without_a_chart_neither_tilt_nor_hold_is_told(self) -> None:
        layered = read_water(conditions(wind=Wind(8.0, 270.0)))
        blind = wind_effects(Wind(8.0, 270.0), 2000.0, layered.profile, layered.layers)
        self.assertIsNone(blind.tilt)
        self.assertIsNone(layered.layers.stability_jm2)
        shape = Hypsography((0.0, 5.0, 9.0), (1e6, 4e5, 0.0))
        told = wind_effects(Wind(8.0, 270.0), 2000.0, layered.profile, layered.layers, shape)
        self.assertIsNotNone(told.tilt)
        self.assertGreater(len(told.notes), len(blind.notes))


class EffectTests(unittest.TestCase):
    def test_casts_go_across_and_food_goes_downwind(self) -> None:
        picture = read_water(conditions())
        for from_deg, gathers, cast in (
            (225.0, 45.0, {315.0, 135.0}),
            (0.0, 180.0, {90.0, 270.0}),
            (300.0, 120.0, {30.0, 210.0}),
        ):
            found = wind_effects(Wind(4.0, from_deg), 2000.0, picture.profile, picture.layers)
            self.assertEqual((found.gathers_deg, set(found.cast_deg)), (gathers, cast))
        words = " ".join(note.plain() for note in found.notes)
        self.assertIn("toward NNE or SSW", words)
        self.assertIn("the ESE shore", words)

    def test_compass_words_wrap_round(self) -> None:
        self.assertEqual([compass_word(d) for d in (0, 11, 12, 348, 349, 360, 180)], ["N", "N", "NNE", "NNW", "N", "N", "S"])


class SunTimeTests(unittest.TestCase):
    def test_times_are_the_ephemerides(self) -> None:
        # An independent ephemeris with the almanacs' refraction, 2026-06-21 at 54.3 N 2.6 W, local time.
        found = sun_times(Place(54.3, -2.6), datetime(2026, 6, 21, 12, 0, tzinfo=BRITISH_SUMMER))
        for name, hour, minute, second in (
            ("dawn", 3, 40, 11),
            ("sunrise", 4, 35, 49),
            ("sunset", 21, 48, 36),
            ("dusk", 22, 44, 13),
        ):
            expected = datetime(2026, 6, 21, hour, minute, second, tzinfo=BRITISH_SUMMER)
            self.assertLess(abs(getattr(found, name) - expected), HALF_A_MINUTE, name)
        self.assertFalse(found.always_up)

    def test_twilight_past_midnight_is_still_the_end_of_the_day(self) -> None:
        found = sun_times(Place(61.2, 9.4), datetime(2026, 7, 14, 12, 0, tzinfo=SUMMER_TIME))
        times = [found.dawn, found.sunrise, found.sunset, found.dusk]
        self.assertNotIn(None, times)
        self.assertEqual(times, sorted(t for t in times if t))

    def test_where_the_sun_does_not_set_or_rise_there_are_no_times(self) -> None:
        up = sun_times(Place(70.0, 20.0), datetime(2026, 6, 21, 12, 0, tzinfo=SUMMER_TIME))
        down = sun_times(Place(70.0, 20.0), datetime(2026, 12, 21, 12, 0, tzinfo=timezone(timedelta(hours=1))))
        self.assertEqual((up.sunrise, up.sunset, up.always_up), (None, None, True))
        self.assertEqual((down.sunrise, down.always_up), (None, False))
        with self.assertRaises(BadInput):
            sun_times(Place(50.0, 0.0), datetime(2026, 6, 21))


class DayStripTests(unittest.TestCase):
    def test_it_runs_from_first_to_last_light_and_is_brightest_at_noon(self) -> None:
        strip = day_strip(conditions())
        assert strip.sun.dawn is not None
        assert strip.sun.dusk is not None
        self.assertLessEqual(strip.hours[0].at, strip.sun.dawn)
        self.assertGreaterEqual(strip.hours[-1].at + timedelta(hours=1), strip.sun.dusk)
        brightest = max(strip.hours, key=lambda hour: hour.brightness)
        self.assertLess(abs(brightest.at.hour - 13), 2)  # summer time, 9 E
        self.assertTrue(all(b.at - a.at == timedelta(hours=1) for a, b in zip(strip.hours, strip.hours[1:], strict=False)))

    def test_fish_go_down_with_the_sun_and_up_at_dusk(self) -> None:
        strip = day_strip(conditions(cloud_fraction=0.0, wind=conditions().wind))
        noon = min(strip.hours, key=lambda hour: abs(hour.at.hour - 13))
        dusk = strip.hours[-1]
        self.assertGreater(noon.mean_m, dusk.mean_m + 0.5)
        self.assertTrue(any("higher" in note.plain() for note in strip.notes))
        self.assertGreaterEqual(len(strip.low_light), 2)

    def test_a_forecast_of_cloud_keeps_them_up_at_noon(self) -> None:
        at = conditions().at.replace(hour=13, minute=0)
        cloudy = [Forecast(at + timedelta(hours=h), 1.0, 5.0) for h in range(-3, 4)]
        noon = [next(h for h in day_strip(conditions(cloud_fraction=0.0), f).hours if h.at.hour == 13) for f in ((), cloudy)]
        self.assertLess(noon[1].brightness, 0.4 * noon[0].brightness)
        self.assertLess(noon[1].mean_m, noon[0].mean_m)

    def test_a_summer_without_night_has_a_strip_all_the_same(self) -> None:
        arctic = conditions(
            place=Place(70.0, 20.0), lake=Lake(70.0, 100.0, 1.0), at=datetime(2026, 6, 21, 12, 0, tzinfo=SUMMER_TIME)
        )
        self.assertEqual(len(day_strip(arctic).hours), 24)
        winter = conditions(
            place=Place(70.0, 20.0), lake=Lake(70.0, 100.0, 1.0), at=datetime(2026, 12, 21, 12, 0, tzinfo=SUMMER_TIME)
        )
        self.assertTrue(all(math.isfinite(hour.mean_m) for hour in day_strip(winter).hours))

    def test_a_forecast_without_a_zone_is_refused(self) -> None:
        with self.assertRaises(BadInput):
            day_strip(conditions(), [Forecast(datetime(2026, 7, 14, 12, 0), 0.5, 3.0)])
        hours = [Forecast(conditions().at + timedelta(hours=h), 0.5, 3.0) for h in range(49)]
        self.assertEqual(len(day_strip(conditions(), hours[:48]).hours), 24)
        with self.assertRaises(BadInput):
            day_strip(conditions(), hours)

    def test_every_hour_is_the_picture_of_that_hour(self) -> None:
        strip = day_strip(conditions())
        hour = strip.hours[5]
        alone = read_water(conditions(at=hour.at))
        self.assertTrue(np.isclose(hour.mean_m, alone.belief.mean_m))
        self.assertEqual(hour.band, alone.belief.main_band)

    def test_the_top_warms_into_the_afternoon_less_so_under_cloud_and_wind(self) -> None:
        # Common practice, no published source: a degree or two from dawn on a calm, clear day.
        def gain(**changes: Any) -> float:
            hours = {
                h.at.hour: h.surface_c for h in day_strip(conditions(wind=Wind(0.0, 0.0), cloud_fraction=0.0, **changes)).hours
            }
            return hours[16] - hours[5]

        calm = gain()
        self.assertTrue(1.0 < calm < 2.5, calm)
        at = {h.at.hour: h.surface_c for h in day_strip(conditions(wind=Wind(0.0, 0.0), cloud_fraction=0.0)).hours}
        # A cosine about the warmest hour, the swing common practice's: half of it is there six hours before, a quarter four.
        self.assertAlmostEqual(at[16] - at[10], 0.5 * float(DAY_SWING_C), delta=0.02)
        self.assertAlmostEqual(at[16] - at[12], 0.25 * float(DAY_SWING_C), delta=0.02)
        grey = day_strip(conditions(wind=Wind(8.0, 0.0), cloud_fraction=1.0)).hours
        self.assertLess(max(h.surface_c for h in grey) - min(h.surface_c for h in grey), 0.3 * calm)
        at_reading = next(h for h in day_strip(conditions()).hours if h.at.hour == conditions().at.hour)
        self.assertAlmostEqual(at_reading.surface_c, 18.6, delta=0.2)

    def test_a_wind_that_turns_is_said_with_its_hour_and_a_light_air_is_not(self) -> None:
        def strip(speed_mps: float) -> str:
            hours = [
                Forecast(datetime(2026, 7, 14, h, tzinfo=SUMMER_TIME), 0.3, speed_mps, 225.0 if h < 14 else 330.0)
                for h in range(24)
            ]
            return " ".join(note.plain() for note in day_strip(conditions(), hours).notes)

        self.assertIn("About 14:00 the wind has turned to NNW", strip(4.0))
        self.assertNotIn("turned", strip(0.8))
