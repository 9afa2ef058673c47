"""Waves that a wind raises over a fetch of deep water, by two published forecasts that bracket a lake's."""

from __future__ import annotations

import math
from dataclasses import dataclass

from stillthread.errors import check_range
from stillthread.ranges import WIND_MPS
from stillthread.water.properties import GRAVITY_MS2

CALM_MPS = 1e-3  # ours: no wind at all; of less, its square is nothing to divide by


@dataclass(frozen=True, slots=True)
class Waves:
    """Significant height [m] and period [s]: `low_m` to `high_m`, `short_s` to `long_s` over the two forecasts."""

    low_m: float
    high_m: float
    short_s: float
    long_s: float


def spm_waves(wind_speed_mps: float, fetch_m: float) -> tuple[float, float]:
    """Return significant height [m] and peak period [s] of a steady wind over deep water.

    Parameters
    ----------
    wind_speed_mps : float
        [m/s], 0 to 40.
    fetch_m : float
        Open water upwind [m], 1 to 100 000.

    References
    ----------
    spm-1984, fetch-limited growth with the adjusted wind speed.

    Examples
    --------
    >>> height, period = spm_waves(5.0, 1000.0)
    >>> round(height, 3), round(period, 2)
    (0.083, 1.08)
    """
    _check(wind_speed_mps, fetch_m)
    if wind_speed_mps < CALM_MPS:
        return 0.0, 0.0
    adjusted = 0.71 * wind_speed_mps**1.23
    fetch = GRAVITY_MS2 * fetch_m / adjusted**2
    height = min(1.6e-3 * math.sqrt(fetch), 0.2433) * adjusted**2 / GRAVITY_MS2
    period = min(0.2857 * math.cbrt(fetch), 8.134) * adjusted / GRAVITY_MS2
    return height, period


def smb_waves(wind_speed_mps: float, fetch_m: float) -> tuple[float, float]:
    """Return significant height [m] and period [s] by the older forecast, which gives more on short fetches.

    References
    ----------
    smb-1973, as printed in coastal handbooks.

    Examples
    --------
    >>> height, period = smb_waves(5.0, 1000.0)
    >>> round(height, 2), round(period, 2)
    (0.11, 1.27)
    """
    _check(wind_speed_mps, fetch_m)
    if wind_speed_mps < CALM_MPS:
        return 0.0, 0.0
    fetch = GRAVITY_MS2 * fetch_m / wind_speed_mps**2
    height = 0.283 * math.tanh(0.0125 * fetch**0.42) * wind_speed_mps**2 / GRAVITY_MS2
    period = 1.20 * math.tanh(0.077 * fetch**0.25) * 2.0 * math.pi * wind_speed_mps / GRAVITY_MS2
    return height, period


def waves(wind_speed_mps: float, fetch_m: float) -> Waves:
    """Return the range of both forecasts."""
    (h1, t1), (h2, t2) = spm_waves(wind_speed_mps, fetch_m), smb_waves(wind_speed_mps, fetch_m)
    return Waves(min(h1, h2), max(h1, h2), min(t1, t2), max(t1, t2))


def _check(wind_speed_mps: float, fetch_m: float) -> None:
    WIND_MPS.check("wind_speed_mps", wind_speed_mps)
    check_range("fetch_m", fetch_m, 1.0, 100_000.0, "m")
