"""How sure a simulated depth is: the same cast with what is not known well a little more and a little less."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from stillthread.errors import FloatArray
from stillthread.ranges import SINK_RATE_MPS
from stillthread.sinking.cast import Cast, simulate
from stillthread.sinking.result import CastResult
from stillthread.sinking.run import Water
from stillthread.sinking.thread import FINE, QUICK, Mesh
from stillthread.sourced import Sourced
from stillthread.tackle.lines import Line
from stillthread.tackle.rig import Rig

LABEL_SPREAD = Sourced(0.15, "1", "ours", "one standard deviation of a label's sink rate, as a share: labels are often wrong")
CALIBRATED_SPREAD = Sourced(0.05, "1", "ours", "the same for a rate that was measured by hand, its trials not kept")
FLY_SPREAD = Sourced(0.25, "1", "ours", "one standard deviation of a fly's sink rate: dressings differ, and soak")


@dataclass(frozen=True, slots=True)
class SpreadResult:
    """`middle` is the cast as given; `spread_m` (n_fly, n_time) one standard deviation of each fly's depth [m]."""

    middle: CastResult
    spread_m: FloatArray


def simulate_spread(rig: Rig, cast: Cast, water: Water, *, rate_spread: float | None = None) -> SpreadResult:
    """Simulate a cast and how unsure its depths are; see `spread_of`."""
    return spread_of(rig, lambda one, mesh: simulate(one, cast, water, mesh=mesh), rate_spread=rate_spread)


def spread_of(rig: Rig, run: Callable[[Rig, Mesh], CastResult], *, rate_spread: float | None = None) -> SpreadResult:
    """Simulate a rig by any method, and how unsure its depths are.

    Line rate and fly weight are varied one at a time, a standard deviation up and down, on a coarser mesh; their
    effects add as squares. A floater has no rate to vary.

    Parameters
    ----------
    rig : Rig
    run : callable
        Simulates a rig, cut as finely as the mesh says.
    rate_spread : float, optional
        Standard deviation of the line's rate, as a share of it: the line's own where it was timed, or that of a label.
    """
    middle = run(rig, FINE)
    return SpreadResult(middle, spread_about(rig, middle, run, rate_spread=rate_spread))


def spread_about(
    rig: Rig, middle: CastResult, run: Callable[[Rig, Mesh], CastResult], *, rate_spread: float | None = None
) -> FloatArray:
    """Return one standard deviation of each fly's depth [m] about a run that is known, shape (n_fly, n_time)."""
    pairs: list[tuple[Rig, Rig]] = [
        (_with_flies(rig, 1.0 - float(FLY_SPREAD)), _with_flies(rig, 1.0 + float(FLY_SPREAD))),
    ]
    if rig.line.sink_rate_mps > 0.0:
        spread = rate_spread_of(rig.line) if rate_spread is None else rate_spread
        slower, faster = (replace(rig, line=at_rate_share(rig.line, 1.0 + sign * spread)) for sign in (-1.0, 1.0))
        pairs.append((slower, faster))
    variance = np.zeros_like(middle.fly_depth_m)
    for pair in pairs:
        low, high = (run(one, QUICK) for one in pair)
        for k in range(len(rig.flies)):
            below = np.interp(middle.time_s, low.time_s, low.fly_depth_m[k])
            above = np.interp(middle.time_s, high.time_s, high.fly_depth_m[k])
            variance[k] += (0.5 * (above - below)) ** 2
    return np.asarray(np.sqrt(variance))


def rate_spread_of(line: Line) -> float:
    """Return one standard deviation of a line's rate, as a share: as timed, or a label's."""
    return float(LABEL_SPREAD) if line.rate_spread is None else line.rate_spread


def at_rate_share(line: Line, share: float) -> Line:
    """Return the line with every sinking stretch at a share of its rate, within what a line can be."""

    def scaled(rate: float) -> float:
        return min(rate * share, SINK_RATE_MPS.high) if rate > 0.0 else 0.0

    return replace(
        line,
        sink_rate_mps=scaled(line.sink_rate_mps),
        stretches=tuple(replace(s, sink_rate_mps=scaled(s.sink_rate_mps)) for s in line.stretches),
    )


def _with_flies(rig: Rig, share: float) -> Rig:
    """Return the rig with every fly sinking, or rising, at a share of its rate."""
    flies = tuple(
        replace(placed, fly=replace(placed.fly, measured_sink_mps=share * placed.fly.sink_rate_mps())) for placed in rig.flies
    )
    return replace(rig, flies=flies)
