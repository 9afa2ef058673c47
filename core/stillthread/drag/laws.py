"""Drag of threads and small bodies in water; compiled, and used by the chain as well as by the tackle's sums."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from stillthread.drag.compiled import inlined
from stillthread.sourced import Sourced

SKIN_FRICTION = Sourced(0.015, "1", "ours", "drag along a coated line, as of towed cables", valid=(0.01, 0.03))


@inlined
def cylinder_cd(re: float) -> float:
    """Return the drag coefficient of a long smooth cylinder across the flow (sucker-brauer-1975).

    `re` is the Reynolds number on the diameter, 1e-4 to 2e5; smaller values are taken as 1e-4.
    """
    r = max(re, 1e-4)
    return float(1.18 + 6.8 * r**-0.89 + 1.96 / math.sqrt(r) - 0.0004 * r / (1.0 + 3.64e-7 * r * r))


# The law's own powers are half the time of a simulation. Cd Re against the square root of Re is nearly straight: read off
# between points this close, it is within 2e-4 of the law.
_ROOT_STEP, _ROOT_LOW, _ROOT_HIGH = 0.05, 0.5, 60.0  # ours: where the root is looked for
_ROOTS = _ROOT_STEP * np.arange(int(_ROOT_HIGH / _ROOT_STEP) + 2)
_CD_RE = np.array([cylinder_cd(root * root) * root * root for root in _ROOTS])


@inlined
def cylinder_cd_re(re: float) -> float:
    """Return drag coefficient times Reynolds number of a cylinder: `cylinder_cd` by a table where threads mostly are."""
    root = math.sqrt(re)
    if root < _ROOT_LOW or root > _ROOT_HIGH:
        return cylinder_cd(re) * re
    at = root / _ROOT_STEP
    k = int(at)
    return float(_CD_RE[k] + (at - k) * (_CD_RE[k + 1] - _CD_RE[k]))


@inlined
def sphere_cd(re: float) -> float:
    """Return the drag coefficient of a smooth sphere (clift-gauvin-1970), `re` up to 2e5, at least 1e-4."""
    r = max(re, 1e-4)
    return float(24.0 / r * (1.0 + 0.15 * r**0.687) + 0.42 / (1.0 + 42500.0 * r**-1.16))


def thread_weight_npm(sink_rate_mps: float, diameter_m: float, density_kgm3: float, viscosity_pas: float) -> float:
    """Return the submerged weight of a thread that falls, lying level, at the given rate.

    Parameters
    ----------
    sink_rate_mps : float
        Speed at which a long level piece falls [m/s]; negative for one that rises.
    diameter_m : float
        [m], positive.
    density_kgm3, viscosity_pas : float
        Of the water in which the rate was taken.

    Returns
    -------
    float
        Weight less buoyancy per metre [N/m], with the sign of `sink_rate_mps`.

    References
    ----------
    sucker-brauer-1975, for the drag that balances it.
    """
    speed = abs(sink_rate_mps)
    cd = cylinder_cd(density_kgm3 * speed * diameter_m / viscosity_pas)
    return math.copysign(0.5 * density_kgm3 * cd * diameter_m * speed * speed, sink_rate_mps)


def thread_sink_rate_mps(weight_npm: float, diameter_m: float, density_kgm3: float, viscosity_pas: float) -> float:
    """Return the rate at which a long level thread of this submerged weight falls [m/s]: the inverse of
    `thread_weight_npm`, found by bisection."""
    low, high = 0.0, 10.0
    for _ in range(60):
        middle = 0.5 * (low + high)
        if thread_weight_npm(middle, diameter_m, density_kgm3, viscosity_pas) < abs(weight_npm):
            low = middle
        else:
            high = middle
    return math.copysign(0.5 * (low + high), weight_npm)


@lru_cache(maxsize=4096)
def body_sink_rate_mps(weight_n: float, diameter_m: float, density_kgm3: float, viscosity_pas: float) -> float:
    """Return the speed at which a round body of this submerged weight falls, or rises if negative [m/s]."""
    low, high = 0.0, 20.0
    area = 0.25 * math.pi * diameter_m**2
    for _ in range(60):
        speed = 0.5 * (low + high)
        cd = sphere_cd(density_kgm3 * speed * diameter_m / viscosity_pas)
        if 0.5 * density_kgm3 * cd * area * speed * speed < abs(weight_n):
            low = speed
        else:
            high = speed
    return math.copysign(0.5 * (low + high), weight_n)
