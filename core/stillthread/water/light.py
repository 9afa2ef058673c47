"""Light in the water: how bright it is for a fish at each depth."""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

from stillthread.errors import FloatArray, check_array, check_range
from stillthread.ranges import SECCHI_M, SHARE
from stillthread.sourced import Sourced

SECCHI_KD = Sourced(1.7, "1", "poole-atkins-1929", "Kd times Secchi depth; measured at sea, a first guess for a lake")


def light_fraction(depth_m: npt.ArrayLike, secchi_m: float) -> FloatArray:
    """Return the share of surface light left at each depth.

    One exponential decay, its rate taken from a Secchi reading; blind to colour and to layers.

    Parameters
    ----------
    depth_m : float or array, shape (n,)
        Depth below the surface [m], 0 to 100.
    secchi_m : float
        Secchi depth [m], 0.2 to 20.

    Returns
    -------
    array, same shape as `depth_m`
        Fraction [1]: exactly 1 at the surface, falling with depth, never negative.

    Raises
    ------
    OutOfRange
        Any depth, or `secchi_m`, is outside the range above or is nan.

    References
    ----------
    poole-atkins-1929, for the product of Kd and Secchi depth.

    Examples
    --------
    >>> light_fraction([0.0, 2.0, 4.0], secchi_m=4.0).round(3)
    array([1.   , 0.427, 0.183])
    """
    depth = check_array("depth_m", depth_m, 0.0, 100.0, "m")
    SECCHI_M.check("secchi_m", secchi_m)
    return np.asarray(np.exp(-float(SECCHI_KD) / secchi_m * depth))


def surface_brightness(sun_elevation_deg: float, cloud_fraction: float) -> float:
    """Return the daylight on the water as a share of a clear noon with the sun overhead.

    Parameters
    ----------
    sun_elevation_deg : float
        Height of the sun [deg], -90 to 90. Between -6 and 0 twilight fades to nothing.
    cloud_fraction : float
        Sky covered by cloud [1], 0 to 1.

    Returns
    -------
    float
        Share [1], 0 to 1.

    References
    ----------
    kasten-czeplak-1980, for 1 - 0.75 N^3.4 under cloud.

    Examples
    --------
    >>> round(surface_brightness(30.0, 0.0), 2), round(surface_brightness(30.0, 1.0), 3)
    (0.5, 0.125)
    """
    check_range("sun_elevation_deg", sun_elevation_deg, -90.0, 90.0, "deg")
    SHARE.check("cloud_fraction", cloud_fraction)
    clear = math.sin(math.radians(max(sun_elevation_deg, 0.0)))
    twilight = 0.01 * min(1.0, max(0.0, (sun_elevation_deg + 6.0) / 6.0))
    return max(clear, twilight) * float(1.0 - 0.75 * cloud_fraction**3.4)
