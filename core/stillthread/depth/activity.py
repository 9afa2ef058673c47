"""How much trout feed at all: warmth and oxygen set it, wherever in the water they are."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from stillthread.errors import FloatArray
from stillthread.water.comfort import Species
from stillthread.water.doubt import averaged

LEAST_ACTIVITY = 0.02  # ours: no water is quite dead


def activity_share(species: Species, water_c: npt.ArrayLike, spread_c: npt.ArrayLike = 0.0) -> FloatArray:
    """Return how much trout feed in water of a temperature, as a share of their most.

    It rises on a straight line from where the species begins to grow, is 1 where it grows best, and falls to nothing where
    growth ends. Growth stands for feeding: blind to what they are used to, and to how long it has been so.

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
    elliott-1995 (rise, and all of a brown trout), hokanson-1977 (fall).

    Examples
    --------
    >>> from stillthread.water.comfort import SPECIES
    >>> activity_share(SPECIES["rainbow"], [3.0, 5.5, 8.0, 15.0, 20.0, 23.0]).round(2)
    array([0.02, 0.2 , 0.46, 1.  , 0.52, 0.02])
    """
    share = averaged(water_c, spread_c, lambda c: np.asarray(np.interp(c, species.growth_c, [0.0, 1.0, 1.0, 0.0])))
    return np.maximum(share, LEAST_ACTIVITY)
