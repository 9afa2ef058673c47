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
from stillthread.ranges import CAST_M, COUNT_S, FLY_SINK_MPS, SINK_RATE_MPS
from stillthread.sinking import chain
from stillthread.sinking.cast import LEAST_LINE_M, Cast, simulate
from stillthread.sinking.result import CastResult
from stillthread.sinking.retrieves import FASTEST_RETRIEVE_MPS, SLOWEST_RETRIEVE_MPS
from stillthread.sinking.run import Water
from stillthread.sinking.thread import FINE, QUICK
from stillthread.sourced import Sourced
from stillthread.tackle.lines import SLOWEST_SINK_MPS, Line, Stretch
from stillthread.tackle.rig import PlacedFly, Rig

IN_TEN = 8
# A normal spread holds eight in ten within so many standard deviations.
EIGHT_IN_TEN = 1.2816
LABEL_SPREAD = Sourced(0.15, "1", "ours", "one standard deviation of a label's sink rate, as a share: labels are often wrong")
SLOW_SIDE, FAST_SIDE = 1.3, 0.4  # ours: the same below and above what a line can do, where its label promises more
CALIBRATED_SPREAD = Sourced(0.05, "1", "ours", "the same for a rate that was measured by hand, its trials not kept")
LOOPED_SPREAD = Sourced(0.2, "1", "ours", "the same for a sinking leader: short ones are told apart by name rather than rate")
FLY_SPREAD = Sourced(0.25, "1", "ours", "one standard deviation of a fly's sink rate: dressings differ, and soak")
TANKED_SPREAD = Sourced(0.08, "1", "ours", "the same where it was timed in a tank: a watch and half a metre of water")
FLY_LEAST_MPS = Sourced(0.004, "m/s", "ours", "at least so much: a bubble or a wet hackle, of a fly that hardly sinks")
CAST_SPREAD = Sourced(0.08, "1", "ours", "how well one knows how far one cast, as a share")
COUNT_SPREAD = Sourced(0.08, "1", "ours", "how evenly one counts, as a share")
PACE_SPREAD = Sourced(0.12, "1", "ours", "how evenly one retrieves, as a share")
SLACK_SPREAD = Sourced(0.02, "1", "ours", "slack in which a cast lands, and how much that varies, as a share of it")
DRIFT_SPREAD = Sourced(0.25, "1", "ours", "how well the wind on the water is known, as a share")
SET_SPREAD = Sourced(0.02, "1", "ours", "how well a float is set, as a share of its depth")
TOW_SPREAD = Sourced(0.1, "1", "ours", "how well the pace of a boat is known, as a share")
DOUBTS = 11
_FIRST_ROW = (1, 1, -1, 1, 1, 1, -1, -1, -1, 1, -1)
DESIGN = np.array([np.roll(_FIRST_ROW, k) for k in range(DOUBTS)] + [[-1] * DOUBTS], dtype=np.float64)
# Columns of a row of doubts.
RATE, LOOPED, CASTS, COUNTS, PACES, SLACKS, DRIFTS, FLIES = range(8)


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


def simulate_spread(rig: Rig, cast: Cast, water: Water) -> SpreadResult:
    """Simulate a cast and how unsure its depths are."""
    middle = simulate(rig, cast, water, mesh=FINE)
    return band_about(
        middle, lambda x: simulate(doubted_rig(rig, x), doubted_cast(doubted_rig(rig, x), cast, x), water, mesh=QUICK)
    )


def band_about(middle: CastResult, run: Callable[[FloatArray], CastResult]) -> SpreadResult:
    """Return the band about a run that is known.

    Parameters
    ----------
    middle : CastResult
    run : callable
        Runs it again, with each thing doubted so many standard deviations off: a row of `DESIGN`, as `doubted_rig` and
        `doubted_cast` read it.
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


def doubted_cast(rig: Rig, cast: Cast, x: FloatArray) -> Cast:
    """Return the cast as the hand makes it, so many standard deviations off what was meant."""
    shortest = rig.leader.length_m + LEAST_LINE_M
    return replace(
        cast,
        cast_m=min(max(cast.cast_m * (1.0 + float(CAST_SPREAD) * x[CASTS]), shortest, CAST_M.low), CAST_M.high),
        count_s=min(max(cast.count_s * (1.0 + float(COUNT_SPREAD) * x[COUNTS]), 0.0), COUNT_S.high),
        retrieve=cast.retrieve.at_speed(
            min(max(cast.retrieve.mean_mps * (1.0 + float(PACE_SPREAD) * x[PACES]), SLOWEST_RETRIEVE_MPS), FASTEST_RETRIEVE_MPS)
        ),
        slack=min(cast.slack + float(SLACK_SPREAD) * max(1.0 + x[SLACKS], 0.0), 0.5),
        wind_speed_mps=doubted_wind_mps(cast.wind_speed_mps, x),
    )


def doubted_wind_mps(wind_speed_mps: float, x: FloatArray) -> float:
    """Return the wind as it may be [m/s]."""
    return float(wind_speed_mps * max(1.0 + float(DRIFT_SPREAD) * x[DRIFTS], 0.0))


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
