"""Trolling and wind drift: the line is towed, not pulled in."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from stillthread.errors import check_range
from stillthread.ranges import COUNT_S, FOR_S, LINE_M, OUT_M, TOW_MPS
from stillthread.sinking import chain
from stillthread.sinking.cast import LEAST_LINE_M
from stillthread.sinking.result import CastResult
from stillthread.sinking.run import Water, run_program
from stillthread.sinking.thread import FINE, Mesh, thread_of
from stillthread.tackle.lines import plain_sum_m
from stillthread.tackle.rig import Rig


@dataclass(frozen=True, slots=True)
class Troll:
    """`out_m` [m] of line and leader behind the boat, 3 to 200, towed at `speed_mps` [m/s], 0 to 2, after a wait of
    `count_s` [s], for `for_s` [s], 5 to 600."""

    out_m: float
    speed_mps: float
    for_s: float = 180.0
    count_s: float = 0.0

    def __post_init__(self) -> None:
        OUT_M.check("out_m", self.out_m)
        TOW_MPS.check("speed_mps", self.speed_mps)
        FOR_S.check("for_s", self.for_s)
        COUNT_S.check("count_s", self.count_s)


def simulate_troll(rig: Rig, troll: Troll, water: Water, *, mesh: Mesh = FINE) -> CastResult:
    """Simulate a line let out behind a boat and towed straight.

    The bottom's corners are measured from where the boat starts, positive the way it goes; the line lies behind it.

    Raises
    ------
    OutOfRange
        Less is out than the leader and half a metre of line.
    """
    check_range("out_m", troll.out_m, rig.leader.length_m + LEAST_LINE_M, LINE_M.high, "m")
    pieces = [(troll.count_s, *[0.0] * 5, chain.COUNTING), (troll.for_s, 0.0, troll.speed_mps, 0.0, 0.0, 0.0, chain.RETRIEVING)]
    program = np.array([piece for piece in pieces if piece[0] > 0.0], dtype=np.float64)
    thread = thread_of(rig, troll.out_m, water.water_c, mesh)
    return run_program(thread, program, water, mesh, behind=True, plain_sum_m=plain_sum_m(rig.line, troll.count_s))
