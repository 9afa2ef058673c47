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

    def hour(self, at: datetime) -> dict[str, Any]:
        t = at.timestamp() / 3600.0
        local = (t + 1.0) % 24.0
        breeze = 2.2 + 2.6 * max(0.0, math.sin((local - 8.0) / 12.0 * math.pi))
        slow = math.sin(t / 31.0 + self.latitude_deg) + 0.6 * math.sin(t / 11.0)
        season = math.cos(2.0 * math.pi * (at.timetuple().tm_yday - 200.0) / 365.0) * math.copysign(1.0, self.latitude_deg)
        return {
            "at": at.isoformat(),
            "wind_speed_mps": round(max(0.3, breeze + 1.3 * slow), 1),
            "wind_from_deg": round((225.0 + 40.0 * math.sin(t / 19.0) + 15.0 * slow) % 360.0),
            "cloud_fraction": round(min(max(0.45 + 0.4 * math.sin(t / 23.0 + 1.0), 0.0), 1.0), 2),
            "air_c": round(9.0 + 8.0 * season + 4.0 * math.sin((local - 9.0) / 12.0 * math.pi), 1),
            "pressure_hpa": round(1013.0 + 9.0 * math.sin(t / 53.0), 1),
        }

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
