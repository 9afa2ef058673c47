"""How sure a simulated depth is: the same presentation with everything that is not known well a little more or a little less.

What is doubted is the rate of line and looped leader, each fly, and the hand: how far it was cast, how evenly counted, how fast
drawn, with how much slack, in what drift. Twelve runs, in which every doubt is up in half of them and down in the other half
evenly against all the others (plackett-burman-1946), give the variance that all of them together make.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from stillthread.errors import FloatArray
from stillthread.ranges import FLY_SINK_MPS, SINK_RATE_MPS
from stillthread.sinking import chain
from stillthread.sinking.action import Action
from stillthread.sinking.doubts import (
    DOUBTS,
    FAST_SIDE,
    FLIES,
    FLY_LEAST_MPS,
    FLY_SPREAD,
    LABEL_SPREAD,
    LOOPED,
    LOOPED_SPREAD,
    RATE,
    SLOW_SIDE,
    TANKED_SPREAD,
)
from stillthread.sinking.result import CastResult
from stillthread.sinking.run import Water
from stillthread.sinking.thread import FINE, QUICK
from stillthread.tackle.lines import SLOWEST_SINK_MPS, Line, Stretch
from stillthread.tackle.rig import PlacedFly, Rig

# A normal spread holds eight in ten within so many standard deviations.
EIGHT_IN_TEN = 1.2816  # by definition
_FIRST_ROW = (1, 1, -1, 1, 1, 1, -1, -1, -1, 1, -1)
DESIGN = np.array([np.roll(_FIRST_ROW, k) for k in range(DOUBTS)] + [[-1] * DOUBTS], dtype=np.float64)


@dataclass(frozen=True, slots=True)
class SpreadResult:
    """`middle` is the presentation as given. Eight times in ten a fly is between `shallow_m` and `deep_m` [m], shape
    (n_fly, n_time), at the moments of `middle`."""

    middle: CastResult
    shallow_m: FloatArray
    deep_m: FloatArray

    @property
    def spread_m(self) -> FloatArray:
        """One standard deviation of each fly's depth [m], about."""
        return (self.deep_m - self.shallow_m) / (2.0 * EIGHT_IN_TEN)


def simulate_spread(rig: Rig, action: Action, water: Water) -> SpreadResult:
    """Simulate what is done with a rig, and how unsure its depths are."""
    return spread_of(rig, action, water, action.simulate(rig, water, FINE))


def spread_of(rig: Rig, action: Action, water: Water, run: CastResult) -> SpreadResult:
    """Return how unsure the depths of a run are that is known."""

    def again(x: FloatArray) -> CastResult:
        doubted = doubted_rig(rig, x)
        return action.doubted(doubted, x).simulate(doubted, water, QUICK)

    return band_about(run, again)


def band_about(middle: CastResult, run: Callable[[FloatArray], CastResult]) -> SpreadResult:
    """Return the band about a run that is known.

    Parameters
    ----------
    middle : CastResult
    run : callable
        Runs it again, with each thing doubted so many standard deviations off: a row of `DESIGN`, as `doubted_rig` and
        `Action.doubted` read it.
    """
    return band_of(middle, [run(row) for row in DESIGN])


def band_of(middle: CastResult, runs: Sequence[CastResult]) -> SpreadResult:
    """Return the band that twelve runs by the rows of `DESIGN` make about the middle one.

    Runs are compared where they are at the same stage - halfway through the count, at the end of the retrieve - not at the same
    second: who counts slowly starts late.
    """
    depths = np.array([at_stages(middle, run) for run in runs])
    depths += middle.fly_depth_m - at_stages(middle, middle)
    spread = depths.std(axis=0)
    shift = np.clip(depths.mean(axis=0) - middle.fly_depth_m, -spread, spread)
    floor = max(float(middle.thread_m[:, :, 1].max()), float(depths.max()))
    shallow = np.clip(middle.fly_depth_m + shift - EIGHT_IN_TEN * spread, 0.0, floor)
    deep = np.clip(middle.fly_depth_m + shift + EIGHT_IN_TEN * spread, 0.0, floor)
    return SpreadResult(middle, np.minimum(shallow, middle.fly_depth_m), np.maximum(deep, middle.fly_depth_m))


def at_stages(middle: CastResult, run: CastResult) -> FloatArray:
    """Return the depths of a run's flies [m] at the stages that the moments of `middle` are, shape (n_fly, n_time)."""
    ours, theirs = _stages(middle), _stages(run)
    at = np.interp(np.interp(middle.time_s, ours, np.arange(len(ours))), np.arange(len(theirs)), theirs)
    return np.array([np.interp(at, run.time_s, depth) for depth in run.fly_depth_m])


def _stages(run: CastResult) -> FloatArray:
    """Return when count, retrieve and lift ended, and the run [s], shape (5,)."""
    ends = [run.time_s[min(int(np.searchsorted(run.phase, phase)), len(run.time_s) - 1)] for phase in _PHASES]
    return np.maximum.accumulate(np.array([0.0, *ends, run.time_s[-1]]) + 1e-6 * np.arange(5))


_PHASES = (chain.RETRIEVING, chain.LIFTING, chain.HANGING)


def doubted_rig(rig: Rig, x: FloatArray) -> Rig:
    """Return the rig with its line, looped leader and flies `x` standard deviations off what they are taken to be."""
    line = doubted_line(rig.line, float(x[RATE]), float(x[LOOPED]))
    flies = tuple(_doubted_fly(placed, float(x[FLIES + k])) for k, placed in enumerate(rig.flies))
    return replace(rig, line=line, flies=flies)


def doubted_line(line: Line, rate: float, looped: float) -> Line:
    """Return the line with its rates, and that of a sinking leader looped on, so many standard deviations off."""
    doubt = rate_spread_of(line)
    if line.too_fast_a_label:
        doubt *= SLOW_SIDE if rate < 0.0 else FAST_SIDE
    body = at_rate_share(replace(line, looped=None), float(np.exp(doubt * rate)))
    if line.looped is None:
        return body
    share = float(np.exp(float(LOOPED_SPREAD) * looped))
    return replace(body, looped=_scaled(line, line.looped, share))


def _doubted_fly(placed: PlacedFly, x: float) -> PlacedFly:
    fly = placed.fly
    rate = fly.sink_rate_mps()
    share = float(FLY_SPREAD) if fly.measured_sink_mps is None else float(TANKED_SPREAD)
    off = x * float(np.hypot(share * rate, float(FLY_LEAST_MPS)))
    return replace(placed, fly=replace(fly, measured_sink_mps=min(max(rate + off, FLY_SINK_MPS.low), FLY_SINK_MPS.high)))


def rate_spread_of(line: Line) -> float:
    """Return one standard deviation of a line's rate, as a share: as timed, or a label's."""
    return float(LABEL_SPREAD) if line.rate_spread is None else line.rate_spread


def at_rate_share(line: Line, share: float) -> Line:
    """Return the line with every sinking stretch at a share of what it likely sinks at, as if it had been timed so."""
    if not any(stretch.sink_rate_mps > 0.0 for stretch in line.profile):
        return line
    own = tuple(_scaled(line, stretch, share) for stretch in line.stretches)
    looped = None if line.looped is None else _scaled(line, line.looped, share)
    rate = max(stretch.sink_rate_mps for stretch in own) if own else _rate(line, line.sink_rate_mps, share)
    return replace(line, sink_rate_mps=rate, stretches=own, looped=looped, rate_spread=rate_spread_of(line))


def _scaled(line: Line, stretch: Stretch, share: float) -> Stretch:
    return replace(stretch, sink_rate_mps=_rate(line, stretch.sink_rate_mps, share))


def _rate(line: Line, rate_mps: float, share: float) -> float:
    if rate_mps <= 0.0:
        return 0.0
    return min(max(line.make_at(rate_mps).rate_mps * share, SLOWEST_SINK_MPS), SINK_RATE_MPS.high)
