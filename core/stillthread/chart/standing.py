"""What the chart says of one place: how deep, how open to the wind, where a cast goes and a boat drifts."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import shapely

from stillthread.chart.fetch import fetch_m, fetch_rose, ray_fetch_m
from stillthread.chart.outline import Outline
from stillthread.chart.soundings import DepthGrid
from stillthread.errors import FloatArray
from stillthread.weather.effects import boat_drift_mps
from stillthread.weather.waves import Waves, waves
from stillthread.weather.wind import Wind

NEAR_SHORE_M = 150.0  # ours
TURNS_DEG = (-90.0, -45.0, 45.0, 90.0, 180.0)  # ours: turns of the wind that are looked at
ALONG_DEG = 50.0  # ours: a boat drifts along a line when the line lies within this of the way the wind blows


@dataclass(frozen=True, slots=True)
class ShoreExposure:
    """A place under one wind: `fetch_m` upwind, `waves`, and `onto`, 1 where it blows straight onto the shore at hand, -1 off
    it, `None` far from any shore."""

    from_deg: float
    fetch_m: float
    waves: Waves
    onto: float | None

    @property
    def word(self) -> str:
        """How the place lies: "blown onto", "sheltered", "wind along the shore" or "open water"."""
        if self.onto is None:
            return "open water"
        if self.onto > 0.4:
            return "blown onto"
        return "sheltered" if self.onto < -0.4 else "wind along the shore"


@dataclass(frozen=True, slots=True)
class CastWay:
    """A cast across the wind: its bearing [deg], and the depth [m] under its end, `None` ashore or unknown."""

    bearing_deg: float
    far_depth_m: float | None


@dataclass(kw_only=True, frozen=True, slots=True)
class Standing:
    """One place in the water, `xy` (2,) [m]; `rose` bearings [deg] and open water [m]; `drift_m` down the wind to the shore."""

    xy: FloatArray
    depth_m: float | None
    now: ShoreExposure
    turned: tuple[ShoreExposure, ...]
    rose: tuple[FloatArray, FloatArray]
    casts: tuple[CastWay, CastWay]
    drift_m: float
    drift_s: float | None
    drogue_s: float | None


def exposure_at(outline: Outline, xy: FloatArray, wind: Wind) -> ShoreExposure:
    """Return how a point in the water, shape (2,) [m], lies to a wind."""
    reach = float(fetch_m(outline, xy, wind.from_deg)[0])
    boundary = outline.water.boundary
    shore = boundary.interpolate(boundary.project(shapely.Point(xy)))
    to_shore = np.array([shore.x, shore.y]) - xy
    away_m = float(np.linalg.norm(to_shore))
    onto = None
    if 0.01 < away_m <= NEAR_SHORE_M:
        blows = math.radians(wind.from_deg + 180.0)
        onto = float(to_shore @ (math.sin(blows), math.cos(blows))) / away_m
    return ShoreExposure(wind.from_deg, reach, waves(wind.speed_mps, max(reach, 1.0)), onto)


def stand(outline: Outline, grid: DepthGrid | None, xy: FloatArray, wind: Wind, cast_m: float) -> Standing:
    """Return what the chart says of a place.

    Parameters
    ----------
    outline, grid : Outline, DepthGrid or None
    xy : array, shape (2,)
        A point in the water or at its edge [m].
    wind : Wind
    cast_m : float
        [m].

    Raises
    ------
    BadInput
        The point lies far from the water.
    """
    here = outline.in_water(xy)
    sides = [(wind.from_deg + turn) % 360.0 for turn in (90.0, 270.0)]
    turned = (Wind(wind.speed_mps, (wind.from_deg + turn) % 360.0) for turn in TURNS_DEG)
    drift_m = float(ray_fetch_m(outline, here, wind.from_deg + 180.0)[0, 0])
    plain, held = (boat_drift_mps(wind, drogue=drogue) for drogue in (False, True))
    return Standing(
        xy=here,
        depth_m=depth_at(grid, here),
        now=exposure_at(outline, here, wind),
        turned=tuple(exposure_at(outline, here, other) for other in turned),
        rose=fetch_rose(outline, here),
        casts=(CastWay(sides[0], _cast_depth(outline, grid, here, sides[0], cast_m)),
         CastWay(sides[1], _cast_depth(outline, grid, here, sides[1], cast_m))),
        drift_m=drift_m,
        drift_s=drift_m / plain if plain > 0.005 else None,
        drogue_s=drift_m / held if held > 0.005 else None,
    )  # fmt: skip


def depth_at(grid: DepthGrid | None, xy: FloatArray) -> float | None:
    """Return the depth [m] at a point, or None where it is not known."""
    depth = float(grid.at(xy)[0]) if grid is not None else math.nan
    return depth if math.isfinite(depth) else None


def _cast_depth(outline: Outline, grid: DepthGrid | None, here: FloatArray, bearing: float, cast_m: float) -> float | None:
    angle = math.radians(bearing)
    end = here + cast_m * np.array([math.sin(angle), math.cos(angle)])
    return depth_at(grid, end) if outline.water.contains(shapely.Point(end)) else None


def drift_along_s(start: FloatArray, end: FloatArray, wind: Wind, *, drogue: bool) -> float | None:
    """Return how long a boat takes to drift a stretch [s], or None when the wind does not carry it along."""
    along = end - start
    length_m = float(np.linalg.norm(along))
    bearing = math.degrees(math.atan2(along[0], along[1]))
    off_deg = abs((bearing - wind.from_deg - 180.0 + 180.0) % 360.0 - 180.0)
    speed = boat_drift_mps(wind, drogue=drogue)
    if off_deg > ALONG_DEG or speed < 0.005:
        return None
    return length_m / (speed * math.cos(math.radians(off_deg)))
