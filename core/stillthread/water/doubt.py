"""What is known only with a spread: shares averaged over it."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import numpy.typing as npt

from stillthread.errors import FloatArray


def averaged(middle: npt.ArrayLike, spread: npt.ArrayLike, share: Callable[[FloatArray], FloatArray]) -> FloatArray:
    """Return a share averaged over a normal error, `spread` its standard deviation: five-point Gauss-Hermite.

    Examples
    --------
    >>> averaged(1.0, 2.0, lambda x: x**2).round(6)  # mean squared plus variance
    np.float64(5.0)
    """
    m, s = np.asarray(middle, dtype=np.float64), np.asarray(spread, dtype=np.float64)
    nodes, weights = np.polynomial.hermite_e.hermegauss(5)
    total = np.zeros(np.broadcast(m, s).shape)
    for node, weight in zip(nodes, weights / weights.sum(), strict=True):
        total += weight * share(m + node * s)
    return total
