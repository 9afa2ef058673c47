"""What a line really sinks at: timed trials against its label, with how sure that is and which trial does not fit."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np

from stillthread.drag.laws import thread_sink_rate_mps, thread_weight_npm
from stillthread.errors import BadInput, FloatArray
from stillthread.ranges import SINK_RATE_MPS, TRIAL_DEPTH_M, TRIAL_S, WATER_C
from stillthread.sourced import Sourced
from stillthread.tackle.lines import Line
from stillthread.tackle.making import LABEL_WATER_C
from stillthread.water.properties import water_density_kgm3, water_viscosity_pas

LABEL_DOUBT = Sourced(0.2, "1", "ours", "a label's rate on a log scale, before the line is timed: many are off by a fifth")
WRONG_LABEL = Sourced(0.1, "1", "ours", "so many labels say nothing of their line: mixed up, or impossible on its weight")
PAST_POSSIBLE = Sourced(0.06, "1", "ours", "the same above what a line of its number can do: what can be is not known to more")
_WRONG_DOUBT = 0.6  # ours: where the rate of such a line lies, on a log scale
TAP_S = Sourced(0.7, "s", "ours", "from the touch to the tap, and from the landing of the line to the start")
STRAY = Sourced(0.1, "1", "ours", "so many trials go wrong: a lift, a weed bed, a wrong depth")
_STRAY_SPREAD = 0.6  # ours: where a trial that went wrong lies, on a log scale
_SPREADS = (0.02, 0.04, 0.07, 0.12, 0.2)  # ours: a grid
_RATES, _REACH = 241, 1.2  # ours: a grid
LEVEL = 0.9  # ours: nine in ten
# How well the depth is known, as a share: ours.
DEPTH_DOUBT = MappingProxyType({"sounder": 0.03, "weighted-line": 0.03, "mark": 0.05, "fished": 0.12})


@dataclass(frozen=True, slots=True)
class Timed:
    """One trial: the rate [m/s] it speaks for, in water of the label's temperature, and its doubt as a share."""

    rate_mps: float
    doubt: float


@dataclass(kw_only=True, frozen=True, slots=True)
class Calibration:
    """What trials and label together say: the rate's mean [m/s] and its spread as a share, the ends of the nine-in-ten
    interval, and for each trial the chance that it went wrong, (n_trial,)."""

    label_mps: float
    rate_mps: float
    spread: float
    low_mps: float
    high_mps: float
    strays: tuple[float, ...]

    @property
    def of_label(self) -> float:
        """The rate as a share of the label's."""
        return self.rate_mps / self.label_mps


def timed_level(line: Line, depth_m: float, elapsed_s: float, water_c: float, known_by: str) -> Timed:
    """Return what a trial says in which the line sank level on slack over a known depth, until it lay on the bottom.

    Parameters
    ----------
    depth_m : float
        0.5 to 30 m.
    elapsed_s : float
        From landing to touch, 2 to 1800 s.
    water_c : float
        Warm water is thinner: the same line sinks faster in it.
    known_by : str
        How the depth is known: a key of `DEPTH_DOUBT`.
    """
    TRIAL_DEPTH_M.check("depth_m", depth_m)
    TRIAL_S.check("elapsed_s", elapsed_s)
    WATER_C.check("water_c", water_c)
    if known_by not in DEPTH_DOUBT:
        raise BadInput(f"{known_by!r} is no way to know a depth. Known: {', '.join(DEPTH_DOUBT)}.", field="known_by")
    if line.sink_rate_mps <= 0.0:
        raise BadInput("A line that floats has no sink rate to time.", field="line")
    sank = depth_m / elapsed_s
    there = (float(water_density_kgm3(water_c)), float(water_viscosity_pas(water_c)))
    usual = (float(water_density_kgm3(LABEL_WATER_C)), float(water_viscosity_pas(LABEL_WATER_C)))
    weight = thread_weight_npm(sank, line.diameter_m, *there)
    rate = thread_sink_rate_mps(weight, line.diameter_m, *usual)
    return Timed(rate, doubt_of(elapsed_s, known_by))


def doubt_of(elapsed_s: float, known_by: str) -> float:
    """Return the doubt of a trial, as a share: of the depth, and of the taps."""
    return math.hypot(DEPTH_DOUBT[known_by], math.sqrt(2.0) * float(TAP_S) / elapsed_s)


def calibrated(label_mps: float, trials: Sequence[Timed], likely_mps: float | None = None) -> Calibration:
    """Return what a line sinks at, by its label and these trials.

    On a log scale a trial lies about the true rate by its doubt and a spread of the hand, which is averaged over; one in ten
    goes wrong and says next to nothing, and so does one label in ten. Where no line of that number can do what the label
    says, `likely_mps` [m/s] is what it can, and it is expected there or slower.

    Examples
    --------
    >>> found = calibrated(0.15, [Timed(0.12, 0.05)] * 6)
    >>> round(found.rate_mps, 2), found.spread < 0.06
    (0.12, True)
    """
    SINK_RATE_MPS.check("label_mps", label_mps)
    log_rate = math.log(label_mps) + np.linspace(-_REACH, _REACH, _RATES)
    off = log_rate - math.log(label_mps)
    wrong = float(WRONG_LABEL)
    below = log_rate - math.log(likely_mps or label_mps)
    doubt: FloatArray | float = float(LABEL_DOUBT)
    if likely_mps is not None and likely_mps < label_mps:
        doubt = np.where(below > 0.0, float(PAST_POSSIBLE), float(LABEL_DOUBT))
    prior = np.log((1.0 - wrong) * _bell(below, 0.0, doubt) + wrong * _bell(off, 0.0, _WRONG_DOUBT))
    logs = np.array([math.log(trial.rate_mps) for trial in trials])
    joint, right = [], []
    for spread in _SPREADS:
        doubt = np.array([math.hypot(trial.doubt, spread) for trial in trials])
        fits = (1.0 - float(STRAY)) * _bell(logs[:, None], log_rate[None, :], doubt[:, None])
        either = fits + float(STRAY) * _bell(logs[:, None], log_rate[None, :], _STRAY_SPREAD)
        joint.append(prior + np.log(either).sum(axis=0))
        right.append(fits / either)
    chance = np.exp(np.array(joint) - max(float(one.max()) for one in joint))
    chance /= chance.sum()
    strays = [1.0 - float(sum((chance[s] * right[s][i]).sum() for s in range(len(_SPREADS)))) for i in range(len(trials))]
    over = chance.sum(axis=0)
    mean = float(over @ log_rate)
    spread_log = float(np.sqrt(over @ (log_rate - mean) ** 2))
    reached = np.cumsum(over) - 0.5 * over
    low, high = np.exp(np.interp([0.5 - 0.5 * LEVEL, 0.5 + 0.5 * LEVEL], reached, log_rate))
    return Calibration(
        label_mps=label_mps,
        rate_mps=float(math.exp(mean)),
        spread=spread_log,
        low_mps=float(low),
        high_mps=float(high),
        strays=tuple(strays),
    )


def _bell(at: FloatArray, middle: FloatArray | float, spread: FloatArray | float) -> FloatArray:
    return np.asarray(np.exp(-0.5 * ((at - middle) / spread) ** 2) / spread)
