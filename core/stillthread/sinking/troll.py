"""Trolling and wind drift: the line is towed, not pulled in."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from stillthread.errors import FloatArray, check_range
from stillthread.phrase import Phrase
from stillthread.ranges import COUNT_S, FOR_S, LINE_M, OUT_M, TOW_MPS
from stillthread.sinking import chain
from stillthread.sinking.action import Action, DepthSteps
from stillthread.sinking.cast import LEAST_LINE_M
from stillthread.sinking.doubts import CAST_SPREAD, CASTS, PACES, TOW_SPREAD
from stillthread.sinking.result import CastResult
from stillthread.sinking.run import Water, run_program
from stillthread.sinking.thread import FINE, Mesh, thread_of
from stillthread.tackle.lines import Line, plain_sum_m
from stillthread.tackle.rig import Rig
from stillthread.trade.usual import USUAL_TOW_S

MORE_LINE_M = 5.0  # ours: a change of length that changes the depth
TOW_MIN = 20.0  # common practice: a pull or two, there and back


@dataclass(frozen=True, slots=True)
class Troll(Action):
    """`out_m` [m] of line and leader behind the boat, 3 to 200, towed at `speed_mps` [m/s], 0 to 2, after a wait of
    `count_s` [s], for `for_s` [s], 5 to 600."""

    kind = "tow"
    done = "towed"

    out_m: float
    speed_mps: float
    for_s: float = float(USUAL_TOW_S)
    count_s: float = 0.0

    def __post_init__(self) -> None:
        OUT_M.check("out_m", self.out_m)
        TOW_MPS.check("speed_mps", self.speed_mps)
        FOR_S.check("for_s", self.for_s)
        COUNT_S.check("count_s", self.count_s)

    @property
    def pace_mps(self) -> float:
        return self.speed_mps

    @property
    def reach_m(self) -> float:
        return self.out_m

    def simulate(self, rig: Rig, water: Water, mesh: Mesh = FINE) -> CastResult:
        return simulate_troll(rig, self, water, mesh=mesh)

    def becalmed(self) -> Troll:
        return self

    def doubted(self, rig: Rig, x: FloatArray) -> Troll:
        shortest = rig.leader.length_m + LEAST_LINE_M
        out_m = min(max(self.out_m * (1.0 + float(CAST_SPREAD) * x[CASTS]), shortest, OUT_M.low), OUT_M.high)
        return replace(self, out_m=out_m, speed_mps=min(self.speed_mps * (1.0 + float(TOW_SPREAD) * x[PACES]), TOW_MPS.high))

    def key(self) -> str:
        return f"tow {self.out_m:.0f} {self.speed_mps:.2f}"

    def words(self) -> Phrase:
        return Phrase("{out_m} out", {"out_m": self.out_m})

    def neighbours(self, rig: Rig, bottom_m: float) -> Iterator[Troll]:
        yield from ()

    def depth_steps(self, line: Line, bottom_m: float) -> DepthSteps:
        return DepthSteps((MORE_LINE_M,), 0.0, "Let out {more_m} more line.", "more_m", TOW_MIN)

    def turned(self, rig: Rig, bottom_m: float) -> Iterator[Troll]:
        yield from ()


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
