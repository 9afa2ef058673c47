"""Light, wind and sun against published tables and almanac times."""

from __future__ import annotations

import unittest
from datetime import datetime, timedelta, timezone

import numpy as np

from stillthread.errors import BadInput, OutOfRange
from stillthread.water.light import light_fraction, surface_brightness
from stillthread.weather.sun import Place, sun_elevation_deg
from stillthread.weather.wind import Wind

BRITISH_SUMMER = timezone(timedelta(hours=1))


class LightTests(unittest.TestCase):
    def test_light_fraction_over_two_steps_is_the_product_of_each(self) -> None:
        one, two, both = light_fraction([1.3, 2.1, 3.4], secchi_m=3.0)
        self.assertAlmostEqual(one * two, both, places=12)

    def test_at_the_secchi_depth_a_sixth_is_left(self) -> None:
        # poole-atkins-1929: Kd times Secchi depth is 1.7, and exp(-1.7) = 0.183.
        self.assertAlmostEqual(float(light_fraction(4.0, secchi_m=4.0)), np.exp(-1.7), places=12)

    def test_full_cloud_leaves_a_quarter(self) -> None:
        # kasten-czeplak-1980: 1 - 0.75 N^3.4.
        self.assertAlmostEqual(surface_brightness(40.0, 1.0) / surface_brightness(40.0, 0.0), 0.25, places=12)

    def test_night_is_dark(self) -> None:
        self.assertEqual(surface_brightness(-20.0, 0.0), 0.0)

    def test_a_murky_secchi_is_refused(self) -> None:
        with self.assertRaises(OutOfRange) as refused:
            light_fraction(1.0, secchi_m=0.1)
        self.assertEqual(refused.exception.message, "secchi_m = 0.1 m lies outside 0.2 to 20 m.")


class WindTests(unittest.TestCase):
    def test_beaufort_edges_are_the_wmo_table(self) -> None:
        edges = ((0.2, 0), (0.3, 1), (1.6, 2), (3.4, 3), (5.5, 4), (8.0, 5), (10.8, 6), (13.9, 7), (17.2, 8), (20.8, 9))
        for speed_mps, force in edges:
            self.assertEqual(Wind(speed_mps, 0.0).beaufort, force, speed_mps)
        self.assertEqual(Wind(4.0, 225.0).word, "gentle breeze")

    def test_negative_wind_is_refused(self) -> None:
        with self.assertRaises(OutOfRange) as refused:
            Wind(-1.0, 0.0)
        self.assertEqual(refused.exception.message, "wind_speed_mps = -1 m/s lies outside 0 to 40 m/s.")


class SunTests(unittest.TestCase):
    place = Place(54.3, -2.6)

    def test_the_sun_stands_on_the_horizon_at_the_almanacs_sunrise_and_sunset(self) -> None:
        # Times from an independent ephemeris, 2026-06-21, upper limb and 34' of refraction: the centre is 16' under.
        # Refraction at the horizon differs by a sixth of a degree between models: a minute of time here.
        for hour, minute, second in ((4, 35, 49), (21, 48, 36)):
            at = datetime(2026, 6, 21, hour, minute, second, tzinfo=BRITISH_SUMMER)
            self.assertAlmostEqual(sun_elevation_deg(self.place, at), -16.0 / 60.0, delta=0.2)

    def test_civil_dusk_is_six_degrees_down(self) -> None:
        at = datetime(2026, 6, 21, 22, 44, 13, tzinfo=BRITISH_SUMMER)
        self.assertAlmostEqual(sun_elevation_deg(self.place, at), -6.0, delta=0.1)

    def test_the_midsummer_sun_stays_up_inside_the_polar_circle(self) -> None:
        at = datetime(2026, 6, 21, 0, 0, tzinfo=timezone.utc)
        self.assertGreater(sun_elevation_deg(Place(70.0, 0.0), at), 0.0)

    def test_a_time_without_a_zone_is_refused(self) -> None:
        with self.assertRaises(BadInput):
            sun_elevation_deg(self.place, datetime(2026, 6, 21, 12, 0))
