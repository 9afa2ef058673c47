"""What the rod does during a presentation, as the program that the chain runs: pieces of pull, pause and movement."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from stillthread.errors import FloatArray
from stillthread.sinking.chain import COUNTING, HANGING, LIFTING, RETRIEVING

LIFT_MPS = 0.4  # ours: a rod that is raised
Piece = tuple[float, float, float, float, float, float, float]


def cast_program(
    count_s: float,
    pulls: Sequence[tuple[float, float]],
    retrieve_m: float,
    lift_m: float,
    hang_s: float,
    *,
    tip_mps: float = 0.0,
    tip_y_mps: float = 0.0,
    fed_m: float = 0.0,
    most_s: float = 600.0,
) -> FloatArray:
    """Return the program of a cast: count, pull by pull until `retrieve_m` is in, lift, hang.

    Parameters
    ----------
    count_s : float
        Wait before the first pull [s].
    pulls : sequence of (seconds, speed [m/s])
        The rhythm, repeated; speed 0 is a pause, and at least one is a pull.
    retrieve_m, lift_m : float
        Line to take in by the rhythm and then by the lift [m].
    hang_s : float
        [s].
    tip_mps : float
        Speed of the rod tip along the cast [m/s], positive toward the flies: a boat's drift.
    tip_y_mps : float
        The same across the cast.
    fed_m : float
        Line let out through the count [m].
    most_s : float
        The retrieve ends after this long, whatever is still out [s].

    Returns
    -------
    array, shape (n_piece, 7)
        As `run_chain` takes it; no piece is empty.
    """
    # A plan asks for the same few programs hundreds of times. Each caller gets a copy of its own.
    return _program(count_s, tuple(pulls), retrieve_m, lift_m, hang_s, tip_mps, tip_y_mps, fed_m, most_s).copy()


@lru_cache(maxsize=512)
def _program(
    count_s: float,
    pulls: tuple[tuple[float, float], ...],
    retrieve_m: float,
    lift_m: float,
    hang_s: float,
    tip_mps: float,
    tip_y_mps: float,
    fed_m: float,
    most_s: float,
) -> FloatArray:
    pieces: list[Piece] = [(count_s, -fed_m / count_s if count_s > 0.0 else 0.0, tip_mps, tip_y_mps, 0.0, 0.0, COUNTING)]
    left_m, left_s, k = retrieve_m, most_s, 0
    while left_m > 1e-9 and left_s > 1e-9:
        for_s, speed = pulls[k % len(pulls)]
        if speed > 0.0:
            for_s = min(for_s, left_m / speed)
        for_s = min(for_s, left_s)
        if len(pulls) == 1:
            for_s = min(left_m / speed, left_s)
        pieces.append((for_s, speed, tip_mps, tip_y_mps, 0.0, 0.0, RETRIEVING))
        left_m -= speed * for_s
        left_s -= for_s
        k += 1
    pieces.append((lift_m / LIFT_MPS, LIFT_MPS, tip_mps, tip_y_mps, 0.0, 0.0, LIFTING))
    pieces.append((hang_s, 0.0, tip_mps, tip_y_mps, 0.0, 0.0, HANGING))
    return np.array([piece for piece in pieces if piece[0] > 1e-9], dtype=np.float64)
