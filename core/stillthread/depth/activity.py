"""How much trout feed at all: warmth and oxygen set it, wherever in the water they are."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from stillthread.errors import FloatArray
from stillthread.sourced import Sourced
from stillthread.water.comfort import Species
from stillthread.water.doubt import averaged

STARTS_C = Sourced(3.56, "C", "elliott-1995", "brown trout begin to grow; common practice: hardly a take under 4 C")
FULL_C = Sourced(13.11, "C", "elliott-1995", "brown trout grow fastest, and on a straight line from the start to here")
FALLS_C = Sourced(17.2, "C", "hokanson-1977", "rainbow trout grow fastest; common practice: falling from about 18 C")
UNDER_LIMIT_C = Sourced(2.0, "C", "hokanson-1977", "growth of rainbow trout ends so far under what kills them (m)")
LEAST_ACTIVITY = 0.02  # ours: no water is quite dead

# The sources speak of trout that are at their best from 12 to 18 C; other species keep their distance from their own range.
_LOW_C, _HIGH_C = 12.0, 18.0


def activity_share(species: Species, water_c: npt.ArrayLike, spread_c: npt.ArrayLike = 0.0) -> FloatArray:
    """Return how much trout feed in water of a temperature, as a share of their most.

    It rises on a straight line from `STARTS_C`, is 1 between the two growth optima, and falls to nothing `UNDER_LIMIT_C`
    under what kills. Growth stands for feeding: blind to what they are used to, and to how long it has been so.

    Parameters
    ----------
    species : Species
    water_c : float or array
        Water temperature [C].
    spread_c : float or array, broadcast with `water_c`
        Standard deviation of that temperature [C]; the share is averaged over it.

    Returns
    -------
    array
        Share [1], `LEAST_ACTIVITY` to 1.

    References
    ----------
    elliott-1995 (rise), hokanson-1977 (fall).

    Examples
    --------
    >>> from stillthread.water.comfort import SPECIES
    >>> activity_share(SPECIES["rainbow"], [3.0, 5.5, 8.0, 15.0, 20.0, 23.0]).round(2)
    array([0.02, 0.2 , 0.46, 1.  , 0.52, 0.02])
    """
    full = float(FULL_C) + species.best_low_c - _LOW_C
    falls = float(FALLS_C) + species.best_high_c - _HIGH_C
    at = [float(STARTS_C), min(full, falls), falls, species.limit_c - float(UNDER_LIMIT_C)]
    share = averaged(water_c, spread_c, lambda c: np.asarray(np.interp(c, at, [0.0, 1.0, 1.0, 0.0])))
    return np.maximum(share, LEAST_ACTIVITY)
