"""Sun and waves against independent libraries, over many places and winds."""

from __future__ import annotations

import math
import unittest
import warnings
from datetime import date, datetime, timedelta, timezone

import ephem
import numpy as np

from stillthread.weather.sun import Place, sun_elevation_deg, sun_times
from stillthread.weather.waves import spm_waves

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import scientimate

PLACES = (Place(61.2, 9.4), Place(-41.3, -71.2), Place(54.3, -2.6), Place(45.0, -118.0), Place(2.0, 37.0))
DAYS = (date(2026, 3, 20), date(2026, 6, 21), date(2026, 9, 10), date(2026, 12, 21))


class SunTests(unittest.TestCase):
    def test_elevation_through_the_year_is_the_ephemeris_within_a_tenth_of_a_degree(self) -> None:
        for place in PLACES:
            for day in DAYS:
                for hour in (3, 9, 14, 20):
                    at = datetime(day.year, day.month, day.day, hour, tzinfo=timezone.utc)
                    seen = ephem.Observer()
                    seen.lat, seen.lon = math.radians(place.latitude_deg), math.radians(place.longitude_deg)
                    seen.date, seen.pressure = at.replace(tzinfo=None), 0
                    altitude = math.degrees(float(ephem.Sun(seen).alt))
                    if altitude > 5.0:  # nearer the horizon refraction parts the two
                        self.assertAlmostEqual(sun_elevation_deg(place, at), altitude, delta=0.2, msg=f"{place} {at}")

    def test_sunrise_and_sunset_are_the_almanacs_within_a_minute(self) -> None:
        for place in PLACES:
            zone = timezone(timedelta(hours=round(place.longitude_deg / 15.0)))
            for day in DAYS:
                noon = datetime(day.year, day.month, day.day, 12, tzinfo=zone)
                found = sun_times(place, noon)
                seen = ephem.Observer()
                seen.lat, seen.lon = math.radians(place.latitude_deg), math.radians(place.longitude_deg)
                seen.date = noon.astimezone(timezone.utc).replace(tzinfo=None)
                seen.pressure, seen.horizon = 0, "-0:34"  # refraction as almanacs take it
                for ours, theirs in (
                    (found.sunrise, seen.previous_rising(ephem.Sun())),
                    (found.sunset, seen.next_setting(ephem.Sun())),
                ):
                    assert ours is not None
                    printed = theirs.datetime().replace(tzinfo=timezone.utc)
                    self.assertLess(abs((ours - printed).total_seconds()), 60.0, f"{place} {day}")


class WaveTests(unittest.TestCase):
    def test_deep_water_waves_are_an_independent_librarys(self) -> None:
        speeds, fetches = (a.ravel() for a in np.meshgrid((2.0, 5.0, 8.0, 12.0, 16.0), (200.0, 1000.0, 3000.0, 10_000.0)))
        heights, periods, *_ = scientimate.parametricwavedeep(speeds, fetches, CalcMethod="spmdeep")
        for speed, fetch, height, period in zip(speeds, fetches, heights, periods, strict=True):
            ours = spm_waves(float(speed), float(fetch))
            self.assertAlmostEqual(ours[0] / float(height), 1.0, delta=0.01, msg=f"{speed} m/s over {fetch} m")
            self.assertAlmostEqual(ours[1] / float(period), 1.0, delta=0.01, msg=f"{speed} m/s over {fetch} m")
