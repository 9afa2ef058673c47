"""Open water upwind of a point, from the outline: by bearing, and as a rose."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely

from stillthread.chart.outline import NUDGE_M, Outline
from stillthread.errors import FloatArray
from stillthread.ranges import FETCH_KM
from stillthread.sourced import Sourced
from stillthread.weather.waves import Waves, waves

RADIALS = Sourced(9, "1", "spm-1984", "rays whose mean length is the fetch")
RADIAL_STEP_DEG = Sourced(3.0, "deg", "spm-1984", "angle between them")
ROSE_BEARINGS = 72  # ours: every five degrees
MOST_CORNERS = 1_500  # ours: where one number of the whole lake is asked for
_CHUNK = 400_000  # ours: ray-edge pairs at a time: a few megabytes


def ray_fetch_m(outline: Outline, xy: npt.ArrayLike, bearing_deg: npt.ArrayLike) -> FloatArray:
    """Return how far the water reaches from each point along each bearing.

    Parameters
    ----------
    outline : Outline
    xy : array, shape (n_point, 2)
        Points in the water [m].
    bearing_deg : array, shape (n_bearing,)
        The way looked, clockwise from north: for fetch, where the wind comes from.

    Returns
    -------
    array, shape (n_point, n_bearing)
        Distance to the first shore [m], zero from a point on land.
    """
    points = np.atleast_2d(np.asarray(xy, dtype=np.float64))
    angle = np.deg2rad(np.atleast_1d(np.asarray(bearing_deg, dtype=np.float64)))
    way = np.column_stack((np.sin(angle), np.cos(angle)))
    start, end = outline.edges()
    found = np.empty((len(points), len(way)))
    step = max(1, _CHUNK // len(start))
    for i, point in enumerate(points):
        for k in range(0, len(way), step):
            found[i, k : k + step] = _first_crossing(start - point, end - point, way[k : k + step])
    return found


def _first_crossing(start: FloatArray, end: FloatArray, way: FloatArray) -> FloatArray:
    """Return the distance along each `way` from the origin to the nearest edge; zero where it ends on land."""
    # Which side of the ray each end lies on; an edge counts from its start, so that a ray through a corner meets one edge.
    side_start = way[:, :1] * start[:, 1] - way[:, 1:] * start[:, 0]
    side_end = way[:, :1] * end[:, 1] - way[:, 1:] * end[:, 0]
    crosses = (side_start >= 0.0) != (side_end >= 0.0)
    with np.errstate(divide="ignore", invalid="ignore"):
        share = np.where(crosses, side_start / (side_start - side_end), 0.0)
    edge = end - start
    along = way[:, :1] * (start[:, 0] + share * edge[:, 0]) + way[:, 1:] * (start[:, 1] + share * edge[:, 1])
    ahead = crosses & (along > 0.0)
    nearest = np.where(ahead, along, np.inf).min(axis=1)
    inside = ahead.sum(axis=1) % 2 == 1
    return np.where(inside & np.isfinite(nearest), nearest, 0.0)


def fetch_m(outline: Outline, xy: npt.ArrayLike, from_deg: float) -> FloatArray:
    """Return the fetch [m] of a wind from `from_deg` at each point, shape (n_point,).

    References
    ----------
    spm-1984: the mean of nine radials three degrees apart about the wind.
    """
    half = (int(RADIALS.value) - 1) / 2.0
    around = from_deg + float(RADIAL_STEP_DEG) * (np.arange(int(RADIALS.value)) - half)
    return np.asarray(ray_fetch_m(outline, xy, around).mean(axis=1))


def fetch_rose(outline: Outline, xy: npt.ArrayLike, bearings: int = ROSE_BEARINGS) -> tuple[FloatArray, FloatArray]:
    """Return bearings [deg] and the open water [m] along each, from one point, shape (bearings,) both."""
    around = np.asarray(np.arange(bearings) * (360.0 / bearings), dtype=np.float64)
    return around, np.asarray(ray_fetch_m(outline, xy, around)[0])


def longest_fetch_m(outline: Outline) -> float:
    """Return the longest open stretch [m]: the longest line across the water from a sample of points on the shore."""
    outline = outline.plainer(MOST_CORNERS)
    shore = outline.water.boundary
    points = [shore.interpolate(share, normalized=True) for share in np.linspace(0.0, 1.0, 48, endpoint=False)]
    wet = np.array([outline.in_water(np.array([p.x, p.y])) for p in points])
    return float(ray_fetch_m(outline, wet, np.arange(0.0, 360.0, 5.0)).max())


def longest_fetch_km(outline: Outline) -> float:
    """Return the longest open stretch as a water keeps it: in km, to ten metres, within what is taken for one."""
    return round(float(np.clip(longest_fetch_m(outline) / 1000.0, FETCH_KM.low, FETCH_KM.high)), 2)


@dataclass(frozen=True, slots=True)
class Shore:
    """A stretch of shore under one wind.

    `xy` (2,) a point just off it [m]; `onto` from -1 (the wind blows off it) to 1 (straight onto it); `fetch_m` the open
    water upwind [m]; `waves`; `kind` is "onto", "along" or "off".
    """

    xy: FloatArray
    onto: float
    fetch_m: float
    waves: Waves
    kind: str


def shore_exposure(outline: Outline, wind_speed_mps: float, from_deg: float, most: int = 120) -> list[Shore]:
    """Return how the wind meets the shore, at up to `most` even stretches of it, round each ring in turn."""
    rings = outline.rings
    length_m = sum(float(np.linalg.norm(np.diff(ring, axis=0), axis=1).sum()) for ring in rings)
    step_m = max(length_m / most, 2.0)
    downwind = np.deg2rad(from_deg + 180.0)
    blows = np.array([np.sin(downwind), np.cos(downwind)])
    points, outward = [], []
    for ring in rings:
        along = np.concatenate(([0.0], np.cumsum(np.linalg.norm(np.diff(ring, axis=0), axis=1))))
        for at in np.arange(step_m / 2.0, along[-1], step_m):
            # The direction of the shore over a whole stretch: a chart's small wiggles turn no wind.
            a, b = (_point_on(ring, along, at + half) for half in (-step_m / 2.0, step_m / 2.0))
            point = _point_on(ring, along, at)
            tangent = (b - a) / max(float(np.linalg.norm(b - a)), 1e-9)
            normal = np.array([tangent[1], -tangent[0]])
            wet = outline.in_water(point - NUDGE_M * normal)
            if float((wet - point) @ normal) > 0.0 or not outline.water.contains(shapely.Point(point - 0.5 * normal)):
                normal = -normal
                wet = outline.in_water(point - NUDGE_M * normal)
            points.append(wet)
            outward.append(normal)
    reach = fetch_m(outline, np.array(points), from_deg)
    found = []
    for xy, normal, open_m in zip(points, outward, reach, strict=True):
        onto = float(normal @ blows)
        kind = "onto" if onto > 0.4 else "off" if onto < -0.4 else "along"
        found.append(Shore(xy, onto, float(open_m), waves(wind_speed_mps, max(float(open_m), 1.0)), kind))
    return found


def _point_on(ring: FloatArray, along: FloatArray, at: float) -> FloatArray:
    at = at % float(along[-1])
    return np.array([np.interp(at, along, ring[:, 0]), np.interp(at, along, ring[:, 1])])
