"""What the stand-in instruments measure: a boat that goes round an invented lake, and the weather over it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import datetime, timedelta, timezone
from typing import Any

import numpy as np
import shapely

from demo.lakes import BRENNHOLT_LAKE, TRESCANAS_LAKE, DemoLake
from stillthread.api import sentence

LAKES = {"brennholt": BRENNHOLT_LAKE, "trescanas": TRESCANAS_LAKE}
BOAT_MPS = 1.2
KNOT_MPS = 0.514444


@dataclass(frozen=True)
class Boat:
    """A boat on a steady course round a lake, `off_shore_m` from the bank, with sounder, thermometer and position."""

    lake: DemoLake
    off_shore_m: float = 75.0

    def place_xy(self, seconds: float) -> np.ndarray[Any, np.dtype[np.float64]]:
        course = self.lake.water.buffer(-self.off_shore_m).exterior if seconds >= 0.0 else self.lake.water.exterior
        at = course.interpolate((BOAT_MPS * seconds) % course.length)
        # It weaves across the drop-off as it goes, as a boat that searches does.
        toward = np.array(self.lake.water.representative_point().coords[0]) - (at.x, at.y)
        weave = 45.0 * math.sin(seconds / 37.0) / max(float(np.linalg.norm(toward)), 1.0)
        xy = np.array([at.x, at.y]) + weave * toward
        return xy if self.lake.water.contains(shapely.Point(xy)) else np.array([at.x, at.y])

    def sentences(self, seconds: float, now: datetime) -> bytes:
        """Return a second's worth of NMEA: position, depth, and the water's temperature."""
        xy = self.place_xy(seconds)
        lon, lat = self.lake.plane.to_lonlat(xy)[0].tolist()
        depth = float(self.lake.depth_m(xy[None, :])[0])
        temperature = 16.8 + 0.5 * math.sin(seconds / 240.0) - 0.03 * depth
        clock, day = f"{now:%H%M%S}.00", f"{now:%d%m%y}"
        position = [*_minutes(lat, 2, "NS"), *_minutes(lon, 3, "EW")]
        return b"".join(
            (
                sentence("GP", "RMC", [clock, "A", *position, f"{BOAT_MPS / KNOT_MPS:.1f}", "0.0", day, "", "", "A"]),
                sentence("SD", "DPT", [f"{max(depth - 0.3, 0.1):.2f}", "0.3", ""]),
                sentence("YX", "MTW", [f"{temperature:.1f}", "C"]),
            )
        )


def _minutes(degrees: float, width: int, letters: str) -> tuple[str, str]:
    whole = int(abs(degrees))
    return f"{whole:0{width}d}{60.0 * (abs(degrees) - whole):08.5f}", letters[0 if degrees >= 0.0 else 1]


@dataclass(frozen=True)
class Weather:
    """Wind, cloud, air and pressure of an invented place, smooth in time and the same whenever it is asked."""

    latitude_deg: float
    altitude_m: float = 300.0

    def hour(self, at: datetime) -> dict[str, Any]:
        t = at.timestamp() / 3600.0
        local = (t + 1.0) % 24.0
        # Weather comes and goes over days: swings that never meet again, and now and then a storm where they pile up.
        front = math.sin(t / 17.3 + self.latitude_deg) + 0.8 * math.sin(t / 29.9 + 1.7) + 0.6 * math.sin(t / 61.0)
        slow = math.sin(t / 31.0 + self.latitude_deg) + 0.6 * math.sin(t / 11.0)
        breeze = 1.6 + 2.2 * max(0.0, math.sin((local - 8.0) / 12.0 * math.pi))
        wind = breeze + 0.9 * slow + 5.0 * max(front - 1.3, 0.0)
        cloud = min(max(0.5 + 0.45 * math.sin(t / 23.0 + 1.0) + 0.2 * front, 0.0), 1.0)
        away = abs(self.latitude_deg)
        season = math.cos(2.0 * math.pi * (at.timetuple().tm_yday - 200.0) / 365.0) * math.copysign(1.0, self.latitude_deg)
        mean = 26.0 - 0.0060 * away**2 - 0.0065 * self.altitude_m
        swing = (4.5 - 3.0 * cloud) * math.sin((local - 9.0) / 12.0 * math.pi)
        # The south is mostly sea: its winters are mild.
        air = (
            mean
            + (0.2 if self.latitude_deg > 0.0 else 0.11) * away * season
            + swing
            + 2.5 * math.sin(t / 83.0 + self.latitude_deg)
            - 1.2 * max(front, 0.0)
        )
        return {
            "at": at.isoformat(),
            "wind_speed_mps": round(max(0.3, wind), 1),
            "wind_from_deg": round((225.0 + 40.0 * math.sin(t / 19.0) + 15.0 * slow) % 360.0),
            "cloud_fraction": round(cloud, 2),
            "air_c": round(air, 1),
            "pressure_hpa": round(1013.0 * (1.0 - 2.25577e-5 * self.altitude_m) ** 5.25588 + 9.0 * math.sin(t / 53.0), 1),
            "humidity": round(min(max(0.72 - 0.02 * swing + 0.08 * front, 0.3), 1.0), 2),
        }

    def between(self, begin: datetime, end: datetime) -> dict[str, Any]:
        """Return the hours from `begin` to before `end`, a list of each quantity, as the weather service tells of past and
        coming days."""
        hours = [self.hour(begin + timedelta(hours=k)) for k in range(round((end - begin) / timedelta(hours=1)))]
        names = {"air_c": "air_c", "humidity": "humidity", "wind_mps": "wind_speed_mps", "cloud": "cloud_fraction",
                 "pressure_hpa": "pressure_hpa"}  # fmt: skip
        return {"start": begin.isoformat(), **{name: [hour[told] for hour in hours] for name, told in names.items()}}

    def sentences(self, now: datetime) -> bytes:
        """Return the station's NMEA of a moment: true wind, twice, as stations say it."""
        hour = self.hour(now)
        speed, direction = hour["wind_speed_mps"], hour["wind_from_deg"]
        return sentence(
            "WI", "MWD", [f"{direction:.1f}", "T", "", "M", f"{speed / KNOT_MPS:.2f}", "N", f"{speed:.2f}", "M"]
        ) + sentence("WI", "MWV", [f"{direction:.1f}", "T", f"{speed:.2f}", "M", "A"])

    def forecast(self, now: datetime) -> dict[str, Any]:
        first = now.replace(minute=0, second=0, microsecond=0)
        return {
            "issued_at": now.astimezone(timezone.utc).isoformat(),
            "hours": [self.hour(first + timedelta(hours=k - 6)) for k in range(54)],
        }
