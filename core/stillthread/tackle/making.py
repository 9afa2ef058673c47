"""What a line can be made of: mass by its number, density by its coating, and so how thick it is and how fast it can sink."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

from stillthread.drag.laws import thread_sink_rate_mps, thread_weight_npm
from stillthread.sourced import Sourced
from stillthread.water.properties import GRAVITY_MS2, water_density_kgm3, water_viscosity_pas

GRAIN_KG = 6.479891e-5  # by definition
FIRST_M = 30.0 * 0.3048  # by definition of the standard: thirty feet
# Sink rates are quoted for cool lake water; the weight that gives them is worked out there.
LABEL_WATER_C = 10.0  # ours: labels name none
# Mass of the first 30 ft (9.144 m), in grains, by line number: the fly-line mass standard (from memory).
LINE_MASS_GRAINS = MappingProxyType({4: 120.0, 5: 140.0, 6: 160.0, 7: 185.0, 8: 210.0})
FLOATER_KGM3 = Sourced(
    880.0, "kg/m3", "common-practice", "specific gravities of floating lines run from 0.8 to 0.95", (800.0, 950.0)
)
# Metal powder in a coating round a core. Filled to a third it is no coating any more.
DENSEST_KGM3 = Sourced(3000.0, "kg/m3", "common-practice", "the densest sinking lines; tungsten powder fills a fifth of them")
HEAVIEST = Sourced(1.4, "1", "common-practice", "fast lines run up to two numbers over their own, no published source")


@dataclass(frozen=True, slots=True)
class Make:
    """A level line as it can be: `mass_kgpm` [kg/m], `density_kgm3`, `diameter_m` [m], and the `rate_mps` [m/s] at which it
    sinks, lying level in water of `LABEL_WATER_C`."""

    mass_kgpm: float
    density_kgm3: float
    diameter_m: float
    rate_mps: float


@lru_cache(maxsize=2048)
def make_of(number: int, rate_mps: float, *, timed: bool = False) -> Make:
    """Return what a line of this number is made of, to sink at a rate.

    The standard's mass is given the density that the rate asks for; where no coating is so dense, the line runs heavier than
    the standard; where that is not enough either, it sinks no faster, whatever its label says - unless it was timed: then it
    is as heavy as it must be.

    Parameters
    ----------
    number : int
        4 to 8.
    rate_mps : float
        Of its label, or timed [m/s]; 0 for a line that floats.

    Examples
    --------
    >>> label = 7 * 0.0254
    >>> round(make_of(6, label).rate_mps / 0.0254, 1), round(make_of(6, label, timed=True).rate_mps / 0.0254, 1)
    (5.1, 7.0)
    """
    mass = LINE_MASS_GRAINS[number] * GRAIN_KG / FIRST_M
    if rate_mps <= 0.0:
        return _make(mass, float(FLOATER_KGM3))
    densest = float(DENSEST_KGM3)
    if _make(mass, densest).rate_mps >= rate_mps:
        return _make(mass, _between(lambda density: _make(mass, density).rate_mps < rate_mps, 1000.0, densest))
    most = float(HEAVIEST) if not timed else 50.0
    if _make(most * mass, densest).rate_mps <= rate_mps:
        return _make(most * mass, densest)
    share = _between(lambda share: _make(share * mass, densest).rate_mps < rate_mps, 1.0, most)
    return _make(share * mass, densest)


def _make(mass_kgpm: float, density_kgm3: float) -> Make:
    diameter = math.sqrt(4.0 * mass_kgpm / (math.pi * density_kgm3))
    water, viscosity = float(water_density_kgm3(LABEL_WATER_C)), float(water_viscosity_pas(LABEL_WATER_C))
    weight = mass_kgpm * GRAVITY_MS2 * (1.0 - water / density_kgm3)
    return Make(mass_kgpm, density_kgm3, diameter, max(thread_sink_rate_mps(weight, diameter, water, viscosity), 0.0))


def _between(too_little: Callable[[float], bool], low: float, high: float) -> float:
    for _ in range(50):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if too_little(middle) else (low, middle)
    return 0.5 * (low + high)


def weight_of(make: Make) -> float:
    """Return its weight in water, less buoyancy [N/m]; negative if it floats."""
    water = float(water_density_kgm3(LABEL_WATER_C))
    if make.rate_mps == 0.0:
        return (make.density_kgm3 - water) * GRAVITY_MS2 * 0.25 * math.pi * make.diameter_m**2
    return thread_weight_npm(make.rate_mps, make.diameter_m, water, float(water_viscosity_pas(LABEL_WATER_C)))
