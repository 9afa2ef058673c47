"""Dissolved oxygen: what fresh water holds in balance with the air, and what is left of it at each depth."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from stillthread.errors import BadInput, FloatArray, check_range
from stillthread.ranges import ALTITUDE_M, DEPTH_M, OXYGEN_MGL
from stillthread.sourced import Sourced
from stillthread.water.doubt import averaged

LATE_DEFICIT = Sourced(0.6, "1", "ours", "most that oxygen under a thermocline has usually lost by autumn; lakes differ widely")
PROBE_MGL = Sourced(0.3, "mg/L", "ours", "error of a hand-held oxygen probe")
LIVABLE_MGL = Sourced(5.0, "mg/L", "epa-1986", "lowest weekly mean of daily minima for cold-water fish past their early life")


def standard_pressure_atm(altitude_m: float) -> float:
    """Return the air pressure of the standard atmosphere [atm] at `altitude_m` [m], -400 to 6000.

    References
    ----------
    us-standard-atmosphere-1976, the troposphere.

    Examples
    --------
    >>> round(standard_pressure_atm(1500.0), 4)
    0.8345
    """
    ALTITUDE_M.check("altitude_m", altitude_m)
    return float((1.0 - 2.25577e-5 * altitude_m) ** 5.25588)


def oxygen_saturation_mgl(water_c: float, altitude_m: float = 0.0) -> float:
    """Return the oxygen that fresh water holds when it is saturated.

    This is a ceiling, not an estimate: it is blind to what fish, weed and mud use or make.

    Parameters
    ----------
    water_c : float
        Water temperature [C], 0 to 40.
    altitude_m : float
        Height of the water above the sea [m], -400 to 6000, taken as its standard pressure.

    Returns
    -------
    float
        Dissolved oxygen [mg/L].

    Raises
    ------
    OutOfRange
        Temperature or altitude is outside the ranges above.

    References
    ----------
    benson-krause-1984, as printed in apha-4500-o.

    Examples
    --------
    >>> round(oxygen_saturation_mgl(10.0), 2), round(oxygen_saturation_mgl(10.0, altitude_m=1500.0), 2)
    (11.29, 9.4)
    """
    check_range("water_c", water_c, 0.0, 40.0, "C")
    k = water_c + 273.15
    sea_level = math.exp(-139.34411 + 1.575701e5 / k - 6.642308e7 / k**2 + 1.243800e10 / k**3 - 8.621949e11 / k**4)
    p = standard_pressure_atm(altitude_m)
    vapour = math.exp(11.8571 - 3840.70 / k - 216961.0 / k**2)
    theta = 0.000975 - 1.426e-5 * water_c + 6.436e-8 * water_c**2
    return sea_level * p * (1.0 - vapour / p) * (1.0 - theta * p) / ((1.0 - vapour) * (1.0 - theta))


@dataclass(frozen=True, slots=True)
class OxygenReading:
    """Dissolved oxygen at one depth: `depth_m` 0 to 100, `oxygen_mgl` 0 to 25 [mg/L]."""

    depth_m: float
    oxygen_mgl: float

    def __post_init__(self) -> None:
        DEPTH_M.check("depth_m", self.depth_m)
        OXYGEN_MGL.check("oxygen_mgl", self.oxygen_mgl)


@dataclass(frozen=True, slots=True)
class OxygenProfile:
    """Dissolved oxygen [mg/L] on the depth grid of a temperature profile, shape (n_depth,), with one standard deviation.

    Between `measured_from_m` and `measured_to_m` it was read; elsewhere, and where both are `None`, it is estimated.
    """

    oxygen_mgl: FloatArray
    spread_mgl: FloatArray
    readings: tuple[OxygenReading, ...]
    measured_from_m: float | None
    measured_to_m: float | None


def oxygen_profile(
    depth_m: FloatArray,
    water_c: FloatArray,
    altitude_m: float,
    thermocline_m: float | None,
    progress: float,
    readings: Sequence[OxygenReading] = (),
) -> OxygenProfile:
    """Return oxygen against depth: as read where it was read, cautiously estimated elsewhere.

    The estimate is the saturation at each depth's temperature, less a deficit that grows below a thermocline as the layered
    season goes on. Readings pull it: between them oxygen runs straight from one to the next (lakes do have a minimum in
    mid-water), and beyond them what they found against the estimate fades out with distance. Below the deepest reading it
    never rises again.

    Parameters
    ----------
    depth_m, water_c : array, shape (n_depth,)
        The temperature profile [m, C].
    altitude_m : float
        [m], -400 to 6000.
    thermocline_m : float or None
        [m]; `None` when the water is mixed.
    progress : float
        From 0 at spring turnover to 1 at autumn turnover (`season_progress`).
    readings : sequence of OxygenReading
        In any order, one a depth.

    Raises
    ------
    BadInput
        Two readings at one depth.

    References
    ----------
    The deficit and its spread are ours: lakes differ, so it is wide.
    """
    saturation = np.array([oxygen_saturation_mgl(max(float(t), 0.0), altitude_m) for t in water_c])
    estimate, doubt = saturation.copy(), np.full_like(saturation, 0.05) * saturation
    if thermocline_m is not None:
        below = 1.0 - np.exp(-np.maximum(depth_m - thermocline_m - 0.5, 0.0) / 1.5)
        deficit = float(LATE_DEFICIT) * float(np.clip(progress, 0.0, 1.0)) * below
        estimate, doubt = saturation * (1.0 - deficit), np.hypot(doubt, 0.5 * deficit * saturation)
    known = tuple(sorted(readings, key=lambda r: r.depth_m))
    for a, b in itertools.pairwise(known):
        if b.depth_m - a.depth_m < 1e-6:
            raise BadInput(f"Two oxygen readings at {a.depth_m:g} m: keep one.", field="oxygen")
    if not known:
        return OxygenProfile(estimate, doubt, (), None, None)
    read_m, read_mgl = np.array([r.depth_m for r in known]), np.array([r.oxygen_mgl for r in known])
    nearest = np.abs(depth_m[:, None] - read_m[None, :]).min(axis=1)
    # What the readings say of the whole lake, as a share of the estimate, fades over a few metres beyond them.
    ratio = np.interp(depth_m, read_m, read_mgl / np.maximum(np.interp(read_m, depth_m, estimate), 0.1))
    outside = np.maximum(read_m[0] - depth_m, 0.0) + np.maximum(depth_m - read_m[-1], 0.0)
    beyond = estimate * (1.0 + (ratio - 1.0) * np.exp(-outside / 4.0))
    inside = outside == 0.0
    drawn = np.where(inside, np.interp(depth_m, read_m, read_mgl), beyond)
    drawn = np.where(depth_m > read_m[-1], np.minimum(drawn, read_mgl[-1]), drawn)
    share = 1.0 - np.exp(-nearest / 2.0)
    spread = np.hypot(float(PROBE_MGL), np.where(inside, 0.5, 1.0) * share * np.maximum(doubt, 0.15 * saturation))
    return OxygenProfile(drawn, spread, known, float(read_m[0]), float(read_m[-1]))


def oxygen_share(oxygen_mgl: npt.ArrayLike, water_c: npt.ArrayLike, spread_mgl: npt.ArrayLike = 0.0) -> FloatArray:
    """Return how far the oxygen lets trout feed, 0 to 1, averaged over what is not known of it.

    Parameters
    ----------
    oxygen_mgl, spread_mgl : float or array
        Dissolved oxygen and its standard deviation [mg/L].
    water_c : float or array
        Water temperature [C]: warm fish need more.

    References
    ----------
    raleigh-1984: none below about 3 mg/L, best from 7 mg/L (to 15 C) or 9 mg/L (warmer). epa-1986: 5 mg/L as the lowest
    weekly mean of minima for cold water. The shares between are ours.

    Examples
    --------
    >>> oxygen_share([2.5, 5.0, 8.0], 12.0)
    array([0. , 0.6, 1. ])
    """
    enough = np.where(np.asarray(water_c) > 15.0, 9.0, 7.0)

    def share(mgl: FloatArray) -> FloatArray:
        low = np.interp(mgl, (2.5, 3.0, float(LIVABLE_MGL)), (0.0, 0.1, 0.6))
        high = 0.6 + 0.4 * np.clip((mgl - float(LIVABLE_MGL)) / (enough - float(LIVABLE_MGL)), 0.0, 1.0)
        return np.asarray(np.where(mgl < float(LIVABLE_MGL), low, high))

    return averaged(oxygen_mgl, spread_mgl, share)
