"""Density and viscosity of fresh water at atmospheric pressure."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from stillthread.errors import FloatArray, check_array
from stillthread.ranges import WATER_C

GRAVITY_MS2 = 9.80665  # by definition


def water_density_kgm3(water_c: npt.ArrayLike) -> FloatArray:
    """Return the density of fresh water.

    Air-free water at one atmosphere; blind to dissolved salts and to depth (0.0005 kg/m3 per metre).

    Parameters
    ----------
    water_c : float or array
        Water temperature [C], -1 to 40.

    Returns
    -------
    array, same shape as `water_c`
        Density [kg/m3]; the largest, 999.975, at 3.98 C.

    Raises
    ------
    OutOfRange
        Any temperature is outside the range above or is nan.

    References
    ----------
    tanaka-2001, equation 1.

    Examples
    --------
    >>> water_density_kgm3([4.0, 20.0]).round(3)
    array([999.975, 998.207])
    """
    t = check_array("water_c", water_c, WATER_C.low, WATER_C.high, "C")
    return np.asarray(999.974950 * (1.0 - (t - 3.983035) ** 2 * (t + 301.797) / (522528.9 * (t + 69.34881))))


def water_viscosity_pas(water_c: npt.ArrayLike) -> FloatArray:
    """Return the dynamic viscosity of liquid water.

    Parameters
    ----------
    water_c : float or array
        Water temperature [C], -1 to 40.

    Returns
    -------
    array, same shape as `water_c`
        Dynamic viscosity [Pa s], falling as the water warms.

    Raises
    ------
    OutOfRange
        Any temperature is outside the range above or is nan.

    References
    ----------
    iapws-sr6-08, the viscosity equation at 0.1 MPa.

    Examples
    --------
    >>> (1e3 * water_viscosity_pas([5.0, 20.0])).round(3)
    array([1.518, 1.002])
    """
    t = check_array("water_c", water_c, WATER_C.low, WATER_C.high, "C")
    r = (t + 273.15) / 300.0
    return np.asarray(1e-6 * (280.68 * r**-1.9 + 511.45 * r**-7.7 + 61.131 * r**-19.6 + 0.45903 * r**-40.0))
