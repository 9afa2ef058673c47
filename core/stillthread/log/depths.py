"""How deep the fly was when a fish took it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from stillthread.sourced import Sourced

LEAST_SPREAD_M = Sourced(0.15, "m", "ours", "no path is known better than this: knots, coils and the hand are left out")


def depth_of_take(
    elapsed_s: float, path_s: Sequence[float], depth_m: Sequence[float], spread_m: Sequence[float]
) -> tuple[float, float]:
    """Return between which depths [m] the fly was so long after it landed: a standard deviation either way, none above the top.

    Parameters
    ----------
    elapsed_s : float
        Since the fly landed [s]; past the end of the path it stays where it was.
    path_s, depth_m, spread_m : sequence of float, one length
        The simulated path: time [s], depth [m] and one standard deviation of it [m].

    Examples
    --------
    >>> depth_of_take(10.0, [0.0, 20.0], [0.0, 4.0], [0.0, 1.0])
    (1.5, 2.5)
    """
    depth = float(np.interp(elapsed_s, path_s, depth_m))
    spread = max(float(LEAST_SPREAD_M), float(np.interp(elapsed_s, path_s, spread_m)))
    return max(0.0, depth - spread), depth + spread
