"""How long the fly was in each layer of the water: the denominator of everything that is counted."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from stillthread.errors import FloatArray, check_range

LOG_LAYER_M = 0.5  # ours: a log does not know depth better


def layer_of(depth_m: float) -> int:
    """Return the layer of a depth [m], counted from the top."""
    return int(max(depth_m, 0.0) / LOG_LAYER_M)


def layer_seconds(time_s: Sequence[float], depth_m: Sequence[float], ends_s: Sequence[float]) -> FloatArray:
    """Return how long the fly was in each layer over casts that each ended so long after the fly landed.

    Parameters
    ----------
    time_s, depth_m : sequence of float, one length
        The simulated path: time [s] in order, depth [m].
    ends_s : sequence of float
        When each cast ended [s]; a cast lasts no longer than the path.

    Returns
    -------
    array, shape (n_layer,)
        Seconds in each `LOG_LAYER_M`, the top first; they sum to the time fished.

    Examples
    --------
    >>> layer_seconds([0.0, 10.0], [0.0, 1.0], [10.0, 5.0]).round(6).tolist()
    [10.0, 5.0, 0.0]
    """
    return _seconds(np.asarray(time_s, float), np.maximum(np.asarray(depth_m, float), 0.0), np.asarray(ends_s, float))


def seconds_above_bottom(
    time_s: Sequence[float], depth_m: Sequence[float], ends_s: Sequence[float], bottom_m: float
) -> FloatArray:
    """Return the same by height above the bottom, the layer on it first."""
    check_range("bottom_m", bottom_m, 0.1, 200.0, "m")
    height = np.maximum(bottom_m - np.asarray(depth_m, float), 0.0)
    return _seconds(np.asarray(time_s, float), height, np.asarray(ends_s, float))


def _seconds(time: FloatArray, level: FloatArray, ends: FloatArray) -> FloatArray:
    if len(time) < 2 or len(ends) == 0:
        return np.zeros(1)
    edges = LOG_LAYER_M * np.arange(1, int(level.max() / LOG_LAYER_M) + 1)
    # Steps are cut where they pass from one layer to another: each then lies in one.
    rise = np.diff(level)
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        way = (edges[None, :] - level[:-1, None]) / rise[:, None]
    crossed = (way > 0.0) & (way < 1.0)
    cuts = (time[:-1, None] + np.where(crossed, way, 0.0) * np.diff(time)[:, None])[crossed]
    cut = np.unique(np.concatenate((time, cuts)))
    at = np.interp(cut, time, level)
    layer = (0.5 * (at[1:] + at[:-1]) / LOG_LAYER_M).astype(np.int64)
    each = np.zeros((len(cut), len(edges) + 1))
    each[np.arange(1, len(cut)), layer] = np.diff(cut)
    reached = np.cumsum(each, axis=0)
    ends = np.clip(ends, time[0], time[-1])
    return np.asarray([np.interp(ends, cut, column).sum() for column in reached.T])
