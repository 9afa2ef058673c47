"""A smooth curve through points that invents no rise or fall between them."""

from __future__ import annotations

import numpy as np

from stillthread.errors import FloatArray


def monotone_curve(known_x: FloatArray, known_y: FloatArray, x: FloatArray) -> FloatArray:
    """Return a monotone cubic through the points, evaluated at `x`.

    Written here because importing a general library for it doubles the start-up time; the tests compare the two.

    Parameters
    ----------
    known_x : array, shape (n_known,)
        Rising strictly; three or more.
    known_y : array, shape (n_known,)
    x : array, shape (n,)
        Within [known_x[0], known_x[-1]].

    Returns
    -------
    array, shape (n,)
        Monotone wherever the points are.

    References
    ----------
    fritsch-carlson-1980, with slopes by the harmonic mean of fritsch-butland-1984.
    """
    step = np.diff(known_x)
    rise = np.diff(known_y) / step
    slope = np.zeros_like(known_y)
    same_way = rise[1:] * rise[:-1] > 0.0
    w1, w2 = 2.0 * step[1:] + step[:-1], step[1:] + 2.0 * step[:-1]
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        harmonic = (w1 + w2) / (w1 / rise[:-1] + w2 / rise[1:])
    slope[1:-1] = np.where(same_way, harmonic, 0.0)
    slope[0] = _end_slope(step[0], step[1], rise[0], rise[1])
    slope[-1] = _end_slope(step[-1], step[-2], rise[-1], rise[-2])
    i = np.clip(np.searchsorted(known_x, x, side="right") - 1, 0, len(step) - 1)
    h = step[i]
    t = (x - known_x[i]) / h
    return np.asarray(
        known_y[i] * (1.0 + 2.0 * t) * (1.0 - t) ** 2
        + h * slope[i] * t * (1.0 - t) ** 2
        + known_y[i + 1] * t**2 * (3.0 - 2.0 * t)
        + h * slope[i + 1] * t**2 * (t - 1.0)
    )


def _end_slope(near: float, far: float, rise_near: float, rise_far: float) -> float:
    """Return a one-sided slope at an end that keeps the curve monotone there."""
    slope = ((2.0 * near + far) * rise_near - near * rise_far) / (near + far)
    if slope * rise_near <= 0.0:
        return 0.0
    if rise_near * rise_far <= 0.0 and abs(slope) > abs(3.0 * rise_near):
        return 3.0 * rise_near
    return slope
