"""The likely shape of a lake's temperature when little of it was read: a marked guess, with its spread."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date

import numpy as np

from stillthread.errors import FloatArray
from stillthread.ranges import ALTITUDE_M, FETCH_KM, LATITUDE_DEG
from stillthread.sourced import Sourced

MIXING_SCALE_M = Sourced(
    4.6, "m at 1 km", "ours", "mixed depth in high summer grows with the 0.41 power of fetch; from memory of regressions"
)
TURNOVER_MARGIN_C = Sourced(1.5, "C", "ours", "a surface no warmer than this above the deep water counts as mixed")

DENSEST_C = 4.0  # by definition: fresh water is heaviest near 4 C
# Turnover, by latitude and height: days of the northern year at 35 degrees by the sea, and how they shift.
SPRING_DAY = Sourced(60.0, "d", "ours", "about day 84 at 45 degrees")
AUTUMN_DAY = Sourced(330.0, "d", "ours", "about day 308 at 45 degrees")
FROM_DEG = 35.0  # ours
SPRING_LATER_D, AUTUMN_SOONER_D = 2.4, 2.2  # ours: for each degree toward the pole
UPHILL_D = 0.02  # ours: for each metre of height, either end
SHORTEST_SEASON_D = 30.0  # ours
# The deep water of summer keeps the temperature of the last full mixing: cold toward the pole and uphill.
DEEP_C = Sourced(5.0, "C", "ours", "at 55 degrees and beyond, by the sea")
DEEP_FROM_DEG, DEEP_C_PER_DEG, DEEP_C_PER_M = 55.0, 0.25, 0.001  # ours
WARMEST_DEEP_C = 14.0  # ours
# The shape between: how far the wind has mixed at the season's start and how much more by its end, and the step below.
FETCH_POWER = 0.41  # ours: with MIXING_SCALE_M
MIXED_AT_FIRST, MIXED_MORE = 0.45, 0.95  # ours
STEP_M, STEP_SHARE = 0.5, 0.25  # ours: half the step's thickness, and how it grows with what is mixed
MIXED_FALL_CPM = 0.04  # ours: even mixed water falls a little with depth

SUMMER_C, SUMMER_C_PER_DEG2 = Sourced(28.0, "C", "ours", "warmest month at the top of a low lake on the equator"), 0.0030
WINTER_C, WINTER_C_PER_DEG2 = Sourced(26.0, "C", "ours", "coldest month there"), 0.0105
COLDEST_C = 1.0  # ours: open water is fished
WARMEST_DAY = Sourced(210.0, "d", "ours", "the top is warmest in late July, a month after the sun (southern: late January)")
COOLER_UPHILL_CPM = Sourced(0.0055, "C/m", "ours", "a little less than the air's 6.5 C a kilometre of the standard atmosphere")

_MIXING_FACTORS = (0.55, 1.0, 1.7)  # ours
_DEEP_OFFSETS_C = (-2.0, 0.0, 2.5)  # ours
_THICKNESS_FACTORS = (0.6, 1.0, 1.6)  # ours
_WEIGHTS = (0.25, 0.5, 0.25)  # ours


@dataclass(frozen=True, slots=True)
class Lake:
    """Where a water lies and how large it is.

    `latitude_deg` -90 to 90 (south negative), `altitude_m` -400 to 6000, `fetch_km` (the longest open
    stretch) 0.05 to 100.
    """

    latitude_deg: float
    altitude_m: float
    fetch_km: float

    def __post_init__(self) -> None:
        LATITUDE_DEG.check("latitude_deg", self.latitude_deg)
        ALTITUDE_M.check("altitude_m", self.altitude_m)
        FETCH_KM.check("fetch_km", self.fetch_km)


def northern_day(latitude_deg: float, on: date) -> float:
    """Return the day of the year, 1 to 366, of the same season in the northern hemisphere.

    Examples
    --------
    >>> northern_day(61.2, date(2026, 7, 1)), northern_day(-41.3, date(2026, 1, 1))
    (182.0, 183.5)
    """
    day = on.timetuple().tm_yday
    return float(day) if latitude_deg >= 0.0 else (day + 182.5 - 1.0) % 365.0 + 1.0


def season_days(lake: Lake) -> float:
    """Return how long the layered season lasts [d]."""
    start, end = _season(lake)
    return max(end - start, SHORTEST_SEASON_D)


def _season(lake: Lake) -> tuple[float, float]:
    """Return the days of the northern year on which the layered season begins and ends."""
    north = abs(lake.latitude_deg) - FROM_DEG
    start = float(SPRING_DAY) + SPRING_LATER_D * north + UPHILL_D * lake.altitude_m
    return start, float(AUTUMN_DAY) - AUTUMN_SOONER_D * north - UPHILL_D * lake.altitude_m


def season_progress(lake: Lake, on: date) -> float:
    """Return how far the layered season has run: 0 at spring turnover, 1 at autumn turnover, outside [0, 1] mixed.

    The season starts later and is shorter toward the pole and uphill.
    """
    start, _ = _season(lake)
    return (northern_day(lake.latitude_deg, on) - start) / season_days(lake)


def deep_water_c(lake: Lake) -> float:
    """Return the usual summer temperature of the deep water [C]: that of the last full mixing, 4 to 14. Ours."""
    warmer = max(0.0, DEEP_FROM_DEG - abs(lake.latitude_deg)) * DEEP_C_PER_DEG
    return max(DENSEST_C, min(WARMEST_DEEP_C, float(DEEP_C) + warmer - DEEP_C_PER_M * lake.altitude_m))


def usual_surface_c(lake: Lake, on: date) -> float:
    """Return the usual temperature at the top of such a lake at this time of the year [C]; ours, a rule of thumb."""
    degrees2 = lake.latitude_deg**2
    summer = float(SUMMER_C) - SUMMER_C_PER_DEG2 * degrees2
    winter = max(float(WINTER_C) - WINTER_C_PER_DEG2 * degrees2, COLDEST_C)
    turn = math.cos(2.0 * math.pi * (northern_day(lake.latitude_deg, on) - float(WARMEST_DAY)) / 365.25)
    top = (
        0.5 * (summer + winter) + 0.5 * max(summer - winter, 0.0) * turn - float(COOLER_UPHILL_CPM) * max(lake.altitude_m, 0.0)
    )
    return max(top, COLDEST_C)


def winter_surface_c(lake: Lake) -> float:
    """Return the usual temperature at the top of such a lake in its coldest month [C]; ours."""
    return max(
        float(WINTER_C) - WINTER_C_PER_DEG2 * lake.latitude_deg**2 - float(COOLER_UPHILL_CPM) * max(lake.altitude_m, 0.0),
        COLDEST_C,
    )


def seasonal_ensemble(depth_m: FloatArray, surface_c: float, lake: Lake, on: date) -> tuple[FloatArray, FloatArray]:
    """Return likely temperature curves for a lake of which only the surface was read.

    The curves differ in how deep the wind has mixed, how cold the bottom is and how sharp the step is.
    They are blind to inflows, springs, cold spells and to a wind that tilts the layers.

    Parameters
    ----------
    depth_m : array, shape (n_depth,)
        Depths [m].
    surface_c : float
        Temperature at the surface [C].
    lake : Lake
    on : date
        Local date.

    Returns
    -------
    curves : array, shape (n_curve, n_depth)
        Temperature [C].
    weights : array, shape (n_curve,)
        Prior weight of each curve, summing to 1.

    References
    ----------
    ours; shape and numbers are rules of thumb.
    """
    progress = season_progress(lake, on)
    base_deep_c = deep_water_c(lake)
    curves, weights = [], []
    for mixing, w_mixing in zip(_MIXING_FACTORS, _WEIGHTS, strict=True):
        for offset_c, w_deep in zip(_DEEP_OFFSETS_C, _WEIGHTS, strict=True):
            for thickness, w_thick in zip(_THICKNESS_FACTORS, _WEIGHTS, strict=True):
                deep_c = max(DENSEST_C, base_deep_c + offset_c)
                curves.append(_curve(depth_m, surface_c, deep_c, progress, lake.fetch_km, mixing, thickness))
                weights.append(w_mixing * w_deep * w_thick)
    return np.array(curves), np.array(weights)


def _curve(
    depth_m: FloatArray,
    surface_c: float,
    deep_c: float,
    progress: float,
    fetch_km: float,
    mixing: float,
    thickness: float,
) -> FloatArray:
    if surface_c < DENSEST_C:
        # Winter stratification: colder, lighter water lies over water of 4 C.
        return DENSEST_C - (DENSEST_C - surface_c) * np.exp(-depth_m / (2.0 * mixing))
    if surface_c <= deep_c + float(TURNOVER_MARGIN_C) or not 0.0 <= progress <= 1.0:
        fall_c = MIXED_FALL_CPM * mixing * depth_m
        return np.maximum(np.minimum(surface_c, DENSEST_C), surface_c - fall_c)
    mixed_m = float(MIXING_SCALE_M) * math.pow(fetch_km, FETCH_POWER) * (MIXED_AT_FIRST + MIXED_MORE * progress) * mixing
    half_m = (STEP_M + STEP_SHARE * mixed_m) * thickness
    step = 1.0 / (1.0 + np.exp(np.clip((depth_m - mixed_m - half_m) / (0.5 * half_m), -60.0, 60.0)))
    at_top = 1.0 / (1.0 + math.exp(-(mixed_m + half_m) / (0.5 * half_m)))
    return np.asarray(deep_c + (surface_c - deep_c) * step / at_top)
