"""Dissolved oxygen that fresh water holds in balance with the air."""

from __future__ import annotations

import math

from stillthread.errors import check_range


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
    check_range("altitude_m", altitude_m, -400.0, 6000.0, "m")
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
