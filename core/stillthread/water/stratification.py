"""Layers of a lake from its temperature profile: mixed layer, thermocline, metalimnion."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from stillthread.errors import FloatArray
from stillthread.sourced import Sourced
from stillthread.water.hypsography import Hypsography
from stillthread.water.properties import GRAVITY_MS2, water_density_kgm3

LEAST_THERMOCLINE_KGM4 = Sourced(
    0.10, "kg/m3 per m", "ours", "a steepest gradient below this (0.7 C per m at 12 C) is a slope, not a thermocline"
)
METALIMNION_SHARE = Sourced(0.25, "1", "wetzel-2001", "of the steepest gradient: where it falls to less the metalimnion ends")
_STABILITY_STEPS = 200  # ours: a grid
MIXED_LAYER_KGM3 = Sourced(0.10, "kg/m3", "ours", "a density step that an ordinary breeze mixes away")


@dataclass(frozen=True, slots=True)
class Layers:
    """What the profile shows; every depth in metres below the surface, `None` where the layer does not exist.

    `stability_jm2` is the work it would take to mix the lake, per square metre of its surface; `None` where its shape is not
    known.
    """

    mixed_layer_m: float
    thermocline_m: float | None
    metalimnion_top_m: float | None
    metalimnion_bottom_m: float | None
    stability_jm2: float | None = None

    @property
    def stratified(self) -> bool:
        return self.thermocline_m is not None


def find_layers(depth_m: FloatArray, water_c: FloatArray, hypsography: Hypsography | None = None) -> Layers:
    """Return the layers of one temperature profile.

    The thermocline is the depth of the steepest density gradient, moved toward the steeper of its two
    neighbours. Density decides, not temperature, so cold water over 4 C water is seen as stable.

    Parameters
    ----------
    depth_m : array, shape (n,)
        Depths [m], rising; three or more are needed to find a thermocline.
    water_c : array, shape (n,)
        Temperature at each depth [C].
    hypsography : Hypsography, optional
        Of the lake, from its chart.

    Returns
    -------
    Layers
        `thermocline_m` is None when no gradient reaches `LEAST_THERMOCLINE_KGM4`.

    References
    ----------
    read-2011, sections 2.1 and 2.2.

    Examples
    --------
    >>> depth = np.arange(0.0, 21.0)
    >>> layers = find_layers(depth, np.interp(depth, [5.0, 9.0], [18.0, 8.0]))
    >>> round(layers.thermocline_m, 1)
    5.9
    """
    density = water_density_kgm3(water_c)
    mixed = _mixed_layer_m(depth_m, density)
    held = None if hypsography is None else stability_jm2(depth_m, density, hypsography)
    if len(depth_m) < 3:
        return Layers(mixed, None, None, None, held)
    gradient = np.diff(density) / np.diff(depth_m)
    middle = 0.5 * (depth_m[1:] + depth_m[:-1])
    steepest = int(np.argmax(gradient))
    if gradient[steepest] < float(LEAST_THERMOCLINE_KGM4):
        return Layers(mixed, None, None, None, held)
    thermocline = float(middle[steepest])
    if 0 < steepest < len(gradient) - 1:
        rise = (middle[steepest] - middle[steepest - 1]) / (gradient[steepest] - gradient[steepest - 1] + 1e-12)
        fall = (middle[steepest + 1] - middle[steepest]) / (gradient[steepest] - gradient[steepest + 1] + 1e-12)
        thermocline = float((depth_m[steepest + 1] * fall + depth_m[steepest] * rise) / (fall + rise))
    limit = float(METALIMNION_SHARE) * float(gradient[steepest])
    top = _edge_m(middle[steepest::-1], gradient[steepest::-1], limit)
    bottom = _edge_m(middle[steepest:], gradient[steepest:], limit)
    return Layers(mixed, thermocline, min(top, thermocline), max(bottom, thermocline), held)


def stability_jm2(depth_m: FloatArray, density_kgm3: FloatArray, hypsography: Hypsography) -> float:
    """Return the work [J/m2] that would mix a lake of this shape, of which depths and densities of shape (n,) are known.

    Below what was read the water is taken to be as at the deepest reading.

    References
    ----------
    idso-1973, Schmidt's stability, with the lake's own area at each depth.
    """
    depth = np.linspace(0.0, hypsography.deepest_m, _STABILITY_STEPS)
    area, density = hypsography.area_at(depth), np.interp(depth, depth_m, density_kgm3)
    volume = float(np.trapezoid(area, depth))
    if volume <= 0.0:
        return 0.0
    centre = float(np.trapezoid(depth * area, depth)) / volume
    work = float(np.trapezoid((depth - centre) * density * area, depth))
    return max(GRAVITY_MS2 * work / float(area[0]), 0.0)


def _edge_m(depth_m: FloatArray, gradient: FloatArray, limit: float) -> float:
    """Walk away from the thermocline and return where the gradient falls to the limit, or the last depth."""
    for i in range(len(gradient)):
        if gradient[i] < limit:
            if i == 0:
                return float(depth_m[0])
            share = (gradient[i - 1] - limit) / (gradient[i - 1] - gradient[i])
            return float(depth_m[i - 1] + share * (depth_m[i] - depth_m[i - 1]))
    return float(depth_m[-1])


def _mixed_layer_m(depth_m: FloatArray, density_kgm3: FloatArray) -> float:
    """Return the depth where density first exceeds that at the top by `MIXED_LAYER_KGM3`, or the deepest depth."""
    excess = density_kgm3 - density_kgm3[0] - float(MIXED_LAYER_KGM3)
    below = np.flatnonzero(excess >= 0.0)
    if below.size == 0:
        return float(depth_m[-1])
    i = int(below[0])
    share = -excess[i - 1] / (excess[i] - excess[i - 1])
    return float(depth_m[i - 1] + share * (depth_m[i] - depth_m[i - 1]))
