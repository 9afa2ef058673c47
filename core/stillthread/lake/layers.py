"""A lake cut into layers, and how much water lies in each."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from stillthread.errors import FloatArray
from stillthread.ranges import BOTTOM_DEPTH_M
from stillthread.water.hypsography import Hypsography

THINNEST_M, THIN_M = 0.25, 0.5  # ours: of shallow lakes, and of others
SHALLOW_M, EVEN_TO_M, GROWTH = 2.0, 15.0, 1.12  # ours: below, what changes slowly is cut more coarsely
USUAL_POWER = 1.3  # ours: area falls with depth between a cone's (2) and a straight slope's (1)
LEAST_AREA = 1e-3  # ours: a share of the surface; no layer is without water


@dataclass(kw_only=True, frozen=True, slots=True)
class Shape:
    """Layers from the surface down: `edge_m` (n + 1,) [m], and `area_m2` (n + 1,) of the lake at each edge."""

    edge_m: FloatArray
    area_m2: FloatArray

    @property
    def middle_m(self) -> FloatArray:
        return 0.5 * (self.edge_m[1:] + self.edge_m[:-1])

    @property
    def thick_m(self) -> FloatArray:
        return np.diff(self.edge_m)

    @property
    def volume_m3(self) -> FloatArray:
        return np.asarray(0.5 * (self.area_m2[1:] + self.area_m2[:-1]) * self.thick_m)


def edges_m(deepest_m: float) -> FloatArray:
    """Return the edges of the layers of a lake so deep [m], the last at its bottom."""
    BOTTOM_DEPTH_M.check("bottom_depth_m", deepest_m)
    thin = THINNEST_M if deepest_m <= SHALLOW_M else THIN_M
    found = list(np.arange(0.0, min(deepest_m, EVEN_TO_M) + 1e-9, thin))
    step = thin
    while found[-1] + 1.5 * step < deepest_m:
        step = step * GROWTH if found[-1] >= EVEN_TO_M else step
        found.append(found[-1] + step)
    if deepest_m - found[-1] > 1e-6:
        if deepest_m - found[-1] < 0.5 * thin and len(found) > 2:
            found[-1] = deepest_m
        else:
            found.append(deepest_m)
    return np.array(found)


def shape_of(
    *, deepest_m: float, surface_m2: float, hypsography: Hypsography | None = None, power: float = USUAL_POWER
) -> Shape:
    """Return the layers of a lake: by its chart where there is one, else by a usual bowl.

    Parameters
    ----------
    deepest_m : float
        Deepest water [m], 0.3 to 100; that of `hypsography` where it is given.
    surface_m2 : float
        Area of the lake [m2].
    hypsography : Hypsography, optional
        From the chart.
    power : float
        Of the usual bowl: 1 a straight slope, 2 a cone.
    """
    deepest_m = max(min(hypsography.deepest_m if hypsography else deepest_m, BOTTOM_DEPTH_M.high), BOTTOM_DEPTH_M.low)
    return shape_on(edges_m(deepest_m), surface_m2=surface_m2, hypsography=hypsography, power=power)


def shape_on(
    edge: FloatArray,
    *,
    surface_m2: float,
    hypsography: Hypsography | None = None,
    power: float = USUAL_POWER,
    down_m: float = 0.0,
) -> Shape:
    """Return a lake on layers that are there already, (n + 1,) edges [m]: whatever is known of it by now, they stay.

    `surface_m2` is the lake's area [m2] when it is full, and `down_m` how far below that it stands [m].
    """
    if hypsography is not None:
        area = np.asarray(hypsography.area_at(edge + down_m)) / max(float(hypsography.area_at(np.zeros(1))[0]), 1.0)
    else:
        area = np.power(np.clip(1.0 - (edge + down_m) / edge[-1], 0.0, 1.0), power)
    area = np.minimum.accumulate(np.maximum(area, LEAST_AREA))
    return Shape(edge_m=edge, area_m2=surface_m2 * area)


def usual_surface_m2(fetch_km: float) -> float:
    """Return the area of a lake of which the longest open stretch is known [m2]: twice as long as wide, an ellipse; ours."""
    return math.pi * 0.125 * (1000.0 * fetch_km) ** 2
