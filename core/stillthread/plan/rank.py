"""Rank presentations: simulate every line, count and retrieve, and score each under the belief."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from stillthread.depth.picture import WaterPicture, check_open_water
from stillthread.errors import BadInput, FloatArray, check_range
from stillthread.phrase import Phrase
from stillthread.plan.reasons import reasons_for, why_the_sum_differs
from stillthread.sinking.cast import LAYER_M, Cast, CastResult, Water, simulate_many
from stillthread.sinking.retrieves import PLAN_RETRIEVES, Retrieve
from stillthread.sourced import Sourced
from stillthread.tackle.leaders import Leader
from stillthread.tackle.lines import Line
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.weather.wind import Wind

# The countdown ladder (common practice): pull at once, then count 5, 10, 15, 20, 30 and on.
COUNTS_S = (0.0, 5.0, 10.0, 15.0, 20.0, 30.0, 45.0, 60.0)
MOST_LINES = 20
USUAL_CAST_M = 18.0
RECAST_S = Sourced(15.0, "s", "ours", "lift off, back cast, shoot and settle")
CONTACT_COST = Sourced(0.7, "1", "ours", "share of a cast's worth lost when all of it lies on the bottom")
COLD_PACE = Sourced(0.06, "m/s at 5 C", "common-practice", "cold fish want it slow; the number is ours")
WARM_PACE = Sourced(0.15, "m/s at 15 C", "common-practice", "warm fish chase; the number is ours")


@dataclass(frozen=True, slots=True)
class Presentation:
    """One way to fish: a rig and a cast."""

    rig: Rig
    cast: Cast


@dataclass(frozen=True, slots=True)
class Choice:
    """A presentation with what it is worth.

    `score` 0 to 1 is the share of fishing time, recasting included, in which a fly is where a feeding trout would take
    it, less what pace and bottom cost. `band_s` is the seconds of one cast inside the likeliest band, `cast_s` its length.
    """

    presentation: Presentation
    result: CastResult
    score: float
    band_s: float
    cast_s: float
    reasons: tuple[Phrase, ...]
    sum_differs: Phrase

    @property
    def band_s_per_minute(self) -> float:
        """Seconds in the band for each minute of fishing."""
        return 60.0 * self.band_s / self.cast_s


def water_for(picture: WaterPicture, cast_m: float = USUAL_CAST_M) -> Water:
    """Return the water a cast is made in: the mean temperature above the likeliest depth, over the bottom as it runs.

    The bottom under the rod holds for the first fifth of the cast, then slopes evenly to that under its end.
    """
    given = picture.conditions
    reach = picture.profile.depth_m <= max(picture.belief.mean_m, 0.5)
    far_m = given.bottom_depth_m if given.far_bottom_depth_m is None else given.far_bottom_depth_m
    bottom = ((0.2 * cast_m, given.bottom_depth_m), (cast_m, far_m))
    return Water(float(picture.profile.water_c[reach].mean()), bottom, weed_m=given.weed_m)


def check_leader_fits(leader: Leader, bottom_depth_m: float, *, long_leader_ok: bool) -> None:
    """Raise `BadInput` when the leader is longer than the water is deep, unless the angler wants that.

    Over weed and in margins a long leader on a floating line is usual, so it is a question, not a ban.
    """
    if leader.length_m > bottom_depth_m and not long_leader_ok:
        raise BadInput(
            f"The leader ({leader.length_m:.1f} m) is longer than the water is deep ({bottom_depth_m:.1f} m). "
            "Shorten it, or say that you want it long.",
            field="bottom_depth_m",
        )


def rank_presentations(
    picture: WaterPicture,
    lines: Sequence[Line],
    leader: Leader,
    flies: Sequence[PlacedFly],
    cast_m: float,
    *,
    counts_s: Sequence[float] = COUNTS_S,
    retrieves: Sequence[Retrieve] = PLAN_RETRIEVES,
    long_leader_ok: bool = False,
) -> list[Choice]:
    """Return the best presentation of each line, best first.

    Every line is simulated with every count and retrieve. The cast runs straight away from the angler over the bottom
    as `water_for` has it; wind on the line is left out.

    Parameters
    ----------
    picture : WaterPicture
    lines : sequence of Line
        One to `MOST_LINES`.
    leader, flies
        Tied to each line in turn.
    cast_m : float
        Rod tip to point fly [m], 3 to 60.
    counts_s, retrieves
        What to try.
    long_leader_ok : bool
        Allow a leader longer than the water is deep.

    Returns
    -------
    list of Choice
        One per line.

    Raises
    ------
    OnIce
        Ice covers the place.
    BadInput
        No line, too many, or the leader does not fit the water.
    """
    check_open_water(picture)
    if not 1 <= len(lines) <= MOST_LINES:
        raise BadInput(f"Give 1 to {MOST_LINES} lines, not {len(lines)}.", field="lines")
    check_leader_fits(leader, picture.conditions.deepest_m, long_leader_ok=long_leader_ok)
    tried = [
        Presentation(Rig(line, leader, tuple(flies)), Cast(cast_m, count_s, retrieve))
        for line in lines
        for count_s in counts_s
        for retrieve in retrieves
    ]
    water = water_for(picture, cast_m)
    results = simulate_many([(one.rig, one.cast) for one in tried], water, quick=True)
    target = target_of(picture)
    scores = [score_of(target, one, result) for one, result in zip(tried, results, strict=True)]
    per_line = len(counts_s) * len(retrieves)
    winners = [tried[i + int(np.argmax(scores[i : i + per_line]))] for i in range(0, len(tried), per_line)]
    # What is shown is simulated again, finely.
    fine = simulate_many([(one.rig, one.cast) for one in winners], water)
    best = [judge(picture, one, result) for one, result in zip(winners, fine, strict=True)]
    return sorted(best, key=lambda choice: -choice.score)


@dataclass(frozen=True, slots=True)
class Target:
    """What a fly is to hit, by `LAYER_M` layer, shape (n_layer,).

    `worth` is the chance that a feeding trout can take a fly there, `inside` whether the layer is in a band.
    `best_pace_mps` suits the water's warmth; `glare_cost` is what a calm, bright surface leaves of a cast's worth.
    """

    worth: FloatArray
    inside: npt.NDArray[np.bool_]
    best_pace_mps: float
    glare_cost: float


def target_of(picture: WaterPicture) -> Target:
    """Return the target that a picture of the water sets."""
    n_layer = int(picture.conditions.deepest_m / LAYER_M) + 1
    layers = LAYER_M * (np.arange(n_layer, dtype=np.float64) + 0.5)
    inside = np.zeros(n_layer, dtype=np.bool_)
    for top, bottom in picture.belief.bands():
        inside |= (layers >= top) & (layers <= bottom + LAYER_M)
    return Target(
        picture.belief.worth(layers),
        inside,
        best_pace_mps(picture.profile.at(picture.belief.mean_m)),
        _glare_cost(picture.conditions.wind, picture.brightness),
    )


def score_of(target: Target, presentation: Presentation, result: CastResult) -> float:
    """Return the share of fishing time, 0 to 1, in which a fly is where a feeding trout would take it.

    Several flies count as the best of them; layer by layer they are not summed: a fish takes one fly.
    """
    worth_s = float((result.layer_s @ target.worth).max())
    contact = float(result.weed_s.max()) / result.duration_s
    pace = pace_fit(presentation.cast.retrieve.mean_mps, target.best_pace_mps)
    cast_s = result.duration_s + float(RECAST_S)
    return worth_s / cast_s * pace * (1.0 - float(CONTACT_COST) * contact) * target.glare_cost


def judge(picture: WaterPicture, presentation: Presentation, result: CastResult) -> Choice:
    """Return what a simulated presentation is worth under the belief, with the reasons."""
    target = target_of(picture)
    band_s = float((result.layer_s @ target.inside).max())
    contact = float(result.weed_s.max()) / result.duration_s
    pace = pace_fit(presentation.cast.retrieve.mean_mps, target.best_pace_mps)
    return Choice(
        presentation,
        result,
        score_of(target, presentation, result),
        band_s,
        result.duration_s + float(RECAST_S),
        reasons_for(picture, presentation.rig, presentation.cast, result, band_s, pace, contact),
        why_the_sum_differs(presentation.rig, presentation.cast, result),
    )


def best_pace_mps(water_c: float) -> float:
    """Return the pace [m/s] that suits water of this temperature [C]: slow when cold, faster when warm. Ours."""
    warmth = min(max((water_c - 5.0) / 10.0, 0.0), 1.2)
    return float(COLD_PACE) * math.pow(float(WARM_PACE) / float(COLD_PACE), warmth)


def pace_fit(mean_mps: float, best_mps: float) -> float:
    """Return how well a pace suits, 0 to 1: a bell on the logarithm of speed. Ours.

    Examples
    --------
    >>> round(pace_fit(0.15, best_pace_mps(15.0)), 2), round(pace_fit(0.40, best_pace_mps(5.0)), 2)
    (1.0, 0.29)
    """
    check_range("mean_mps", mean_mps, 0.001, 10.0, "m/s")
    return math.exp(-0.5 * (math.log(mean_mps / best_mps) / 1.2) ** 2)


def _glare_cost(wind: Wind, brightness: float) -> float:
    """Return what a calm, bright surface leaves of a cast's worth: it shows every line. Ours."""
    calm = max(0.0, 1.0 - wind.speed_ms / 2.0)
    return 1.0 - 0.25 * calm * min(brightness / 0.5, 1.0)
