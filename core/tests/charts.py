"""Lakes of known geometry, for tests of the chart."""

from __future__ import annotations

from typing import Any

import numpy as np

from stillthread.chart.outline import Outline, read_outline
from stillthread.chart.plane import Plane
from stillthread.errors import FloatArray

PLANE = Plane(61.2, 9.4)


def ring_of(xy: FloatArray, plane: Plane = PLANE) -> list[list[float]]:
    """Return a closed ring of longitudes and latitudes from corners in metres."""
    lonlat = plane.to_lonlat(xy)
    return [[float(x), float(y)] for x, y in [*lonlat, lonlat[0]]]


def polygon(*rings: FloatArray) -> dict[str, Any]:
    return {"type": "Polygon", "coordinates": [ring_of(ring) for ring in rings]}


def lake(*rings: FloatArray) -> Outline:
    return read_outline(polygon(*rings), PLANE)


def rectangle(width_m: float, height_m: float, x: float = 0.0, y: float = 0.0) -> FloatArray:
    half_w, half_h = width_m / 2.0, height_m / 2.0
    return np.array([[x - half_w, y - half_h], [x + half_w, y - half_h], [x + half_w, y + half_h], [x - half_w, y + half_h]])


def circle(radius_m: float, corners: int = 720) -> FloatArray:
    angle = np.arange(corners) * 2.0 * np.pi / corners
    return radius_m * np.column_stack((np.cos(angle), np.sin(angle)))


def ledge_lake(count: int = 3000, seed: int = 5) -> tuple[FloatArray, FloatArray]:
    """Return soundings of a 600 by 400 m lake: a shelf of 3 m to the west that falls to 12 m between x = -20 and 20."""
    rng = np.random.default_rng(seed)
    xy = rng.uniform((-300.0, -200.0), (300.0, 200.0), (count, 2))
    depth = 3.0 + 9.0 * np.clip((xy[:, 0] + 20.0) / 40.0, 0.0, 1.0)
    return xy, depth
