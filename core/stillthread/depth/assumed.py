"""What nobody read: what is assumed in its place, how sure that is, and how much reading it would narrow the search.

A value that was not read is a spread of values, and the belief is averaged over it. The belief is a product of what each
condition does (warmth, light, food), so each unknown is averaged on its own and the averages are multiplied: exact where
each touches one factor, since the mean of a product of independent factors is the product of their means. The bottom is not
averaged over: what is planned stands in the depth assumed, and the angler meets the true one with his first count. It is only
told what knowing it is worth.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import TYPE_CHECKING

import numpy as np

from stillthread.depth.belief import Belief, FeedingOn
from stillthread.errors import BadInput, FloatArray
from stillthread.phrase import Phrase
from stillthread.ranges import BOTTOM_DEPTH_M, SECCHI_M, WATER_C
from stillthread.sourced import Sourced
from stillthread.water.expected import ExpectedColumn
from stillthread.water.reading import Reading
from stillthread.water.seasonal import COLDEST_C, Lake, usual_surface_c
from stillthread.weather.wind import Wind

if TYPE_CHECKING:
    from stillthread.depth.picture import Conditions, WaterPicture

SURFACE, WIND, WIND_FROM, SKY, CLARITY, BOTTOM = (
    "surface_c", "wind_speed_mps", "wind_from_deg", "cloud_fraction", "secchi_m", "bottom_depth_m",
)  # fmt: skip
NAMES = (SURFACE, WIND, WIND_FROM, SKY, CLARITY, BOTTOM)

# One in ten lies below `low`, one in ten above `high`.
NODE_WEIGHTS = (0.3, 0.4, 0.3)  # Swanson's rule, for the mean over the 10th, 50th and 90th percentile (hurst-2000; from memory)
SEARCHED = 0.8  # ours: the water to be searched is the least that holds 8 chances in 10

SURFACE_DOUBT_C = Sourced(4.0, "C", "ours", "either way: weather, size and sea make lakes of one latitude differ by so much")
USUAL_WIND_MPS, WIND_LOW_MPS, WIND_HIGH_MPS = Sourced(4.0, "m/s", "ours", "a usual fishing day"), 1.0, 8.0
WESTERLIES_FROM_DEG = Sourced(30.0, "deg", "common-practice", "poleward of it the west wind is the usual one")
USUAL_CLOUD, CLOUD_LOW, CLOUD_HIGH = Sourced(0.6, "1", "ours", "more cloud than sun"), 0.1, 1.0
CLARITY_LOW, CLARITY_HIGH = 0.7, 1.4  # ours: shares of a water's usual clarity
BOTTOM_LOW, BOTTOM_HIGH = 0.7, 1.4  # ours: shares of the usual depth
WORKED_OUT = "Worked out from the weather since the lake was last mixed."
TOP_FALL_C = 1.5  # ours: how far the top may be from the uppermost reading below it


@dataclass(frozen=True, slots=True)
class Assumption:
    """What stands in for a condition that nobody read: `value`, with one chance in ten below `low` and above `high`."""

    name: str
    value: float
    low: float
    high: float
    why: Phrase

    @property
    def nodes(self) -> tuple[float, float, float]:
        return (self.low, self.value, self.high)


@dataclass(frozen=True, slots=True)
class Unread:
    """An assumption, and by how much reading it would narrow the water to be searched [m], on average."""

    assumption: Assumption
    narrows_m: float


@dataclass(frozen=True, slots=True)
class Usual:
    """How a water usually is: what the angler told of it."""

    secchi_m: float
    bottom_depth_m: float


def assume(
    names: Sequence[str],
    lake: Lake,
    on: date,
    usual: Usual,
    readings: Sequence[Reading] = (),
    expected: ExpectedColumn | None = None,
) -> tuple[Assumption, ...]:
    """Return what is assumed for each of these conditions.

    `readings` are those below the surface: they say more of the top than the season does, and so does the lake's weather,
    where it is `expected` by that.

    Raises
    ------
    BadInput
        A name that is none of `NAMES`, or one twice.
    """
    if unknown := [name for name in names if name not in NAMES]:
        raise BadInput(f"Nothing is assumed for {unknown[0]!r}.", field="assumed")
    if len(set(names)) != len(names):
        raise BadInput("One condition is named twice.", field="assumed")
    return tuple(_assumption(name, lake, on, usual, readings, expected) for name in names)


def _assumption(
    name: str, lake: Lake, on: date, usual: Usual, readings: Sequence[Reading], expected: ExpectedColumn | None
) -> Assumption:
    if name == SURFACE:
        if expected is not None:
            value, low, high = (max(one, WATER_C.low) for one in expected.band_c(0.0))
            return Assumption(name, value, low, min(high, WATER_C.high), Phrase(WORKED_OUT))
        upper = min((r for r in readings if r.depth_m > 0.0), key=lambda r: r.depth_m, default=None)
        guess, doubt = (usual_surface_c(lake, on), float(SURFACE_DOUBT_C)) if upper is None else (upper.water_c, TOP_FALL_C)
        text = "such a water on this date" if upper is None else "the uppermost reading"
        return Assumption(name, guess, max(guess - doubt, COLDEST_C), min(guess + doubt, WATER_C.high), Phrase(f"As {text}."))
    if name == WIND:
        return Assumption(name, float(USUAL_WIND_MPS), WIND_LOW_MPS, WIND_HIGH_MPS, Phrase("A usual breeze."))
    if name == WIND_FROM:
        west = abs(lake.latitude_deg) >= float(WESTERLIES_FROM_DEG)
        deg = 270.0 if west else 90.0
        side = "west" if west else "east"
        return Assumption(
            name, deg, deg, deg, Phrase(f"From the {side}, as mostly at this latitude: it turns banks, not depths.")
        )
    if name == SKY:
        return Assumption(name, float(USUAL_CLOUD), CLOUD_LOW, CLOUD_HIGH, Phrase("Some cloud."))
    if name == CLARITY:
        clear, shares = SECCHI_M, (CLARITY_LOW, CLARITY_HIGH)
        value, why = usual.secchi_m, "As clear as this water usually is."
    else:
        clear, shares = BOTTOM_DEPTH_M, (BOTTOM_LOW, BOTTOM_HIGH)
        value, why = usual.bottom_depth_m, "As deep as you usually fish here."
    low, high = (min(max(share * value, clear.low), clear.high) for share in shares)
    return Assumption(name, value, low, high, Phrase(why))


def with_value(conditions: Conditions, name: str, value: float) -> Conditions:
    """Return the conditions with one of them set, as if it had been read."""
    if name == SURFACE:
        deeper = tuple(r for r in conditions.readings if r.depth_m > 0.0)
        return replace(conditions, readings=(Reading(0.0, value), *deeper))
    if name == WIND:
        return replace(conditions, wind=Wind(value, conditions.wind.from_deg))
    if name == WIND_FROM:
        return replace(conditions, wind=Wind(conditions.wind.speed_mps, value))
    if name == SKY:
        return replace(conditions, cloud_fraction=value)
    if name == CLARITY:
        return replace(conditions, secchi_m=value)
    return replace(conditions, bottom_depth_m=value)


def filled(conditions: Conditions) -> Conditions:
    """Return the conditions with every assumption's value in its place."""
    for assumption in conditions.assumed:
        conditions = with_value(conditions, assumption.name, assumption.value)
    return conditions


def averaged_over(
    conditions: Conditions, read: Callable[[Conditions], WaterPicture]
) -> tuple[WaterPicture, tuple[Unread, ...], float]:
    """Return the picture with its belief averaged over what was not read, each unknown with what it is worth, and the share
    of the search that rests on what was read, 0 to 1.

    Parameters
    ----------
    conditions : Conditions
        With at least one assumption.
    read : callable
        What reads conditions that are all known.
    """
    known = replace(filled(conditions), assumed=())
    middle = read(known)
    depth, base = middle.belief.depth_m, np.maximum(middle.belief.density_pm, 1e-12)
    ratios: dict[str, list[FloatArray]] = {}
    worth_m = dict.fromkeys((assumption.name for assumption in conditions.assumed), 0.0)
    for assumption in conditions.assumed:
        if assumption.low == assumption.high:
            continue
        name = assumption.name
        at = [middle if value == assumption.value else read(with_value(known, name, value)) for value in assumption.nodes]
        if name == BOTTOM:
            worth_m[name] = _bottom_worth_m([picture.belief for picture in at])
        else:
            ratios[name] = [np.maximum(picture.belief.density_pm, 1e-12) / base for picture in at]
    means = {
        name: np.asarray(sum(w * node for w, node in zip(NODE_WEIGHTS, nodes, strict=True))) for name, nodes in ratios.items()
    }
    together = np.asarray(math.prod(means.values(), start=np.ones_like(base)))
    now_m = searched_m(depth, base * together)
    for name, nodes in ratios.items():
        others = together / means[name]
        worth_m[name] = less_m(now_m, [searched_m(depth, base * others * node) for node in nodes])
    unread = tuple(Unread(assumption, worth_m[assumption.name]) for assumption in conditions.assumed)
    share = math.prod(1.0 - min(each.narrows_m / now_m, 1.0) for each in unread)
    foods = middle.foods.weighed({on.chance.food.key: _mass(depth, on.density_pm * together) for on in middle.belief.feeding})
    chances = {chance.food.key: chance for chance in foods.chances}
    feeding = tuple(
        FeedingOn(chances[on.chance.food.key], _normed(depth, on.density_pm * together)) for on in middle.belief.feeding
    )
    belief = replace(middle.belief, density_pm=_normed(depth, base * together), feeding=feeding)
    return replace(middle, belief=belief, foods=foods, conditions=filled(conditions)), unread, share


def searched_m(depth_m: FloatArray, density_pm: FloatArray) -> float:
    """Return how much water [m] the likeliest `SEARCHED` of this density takes up, to parts of a grid step."""
    width = np.gradient(depth_m) if len(depth_m) > 1 else np.ones(1)
    order = np.argsort(-density_pm, kind="stable")
    mass = (density_pm * width)[order] / float((density_pm * width).sum())
    reached = np.concatenate(([0.0], np.cumsum(mass)))
    return float(np.interp(SEARCHED, reached, np.concatenate(([0.0], np.cumsum(width[order])))))


def less_m(now_m: float, then_m: Sequence[float], weights: Sequence[float] = NODE_WEIGHTS) -> float:
    """Return by how much less is searched once it is known, on average [m]; never less than nothing."""
    return max(now_m - sum(w * m for w, m in zip(weights, then_m, strict=True)), 0.0)


def _bottom_worth_m(beliefs: Sequence[Belief]) -> float:
    """Return what knowing the bottom is worth [m]: over several bottoms the same fish spread over more depths."""
    depth = max((belief.depth_m for belief in beliefs), key=lambda grid: float(grid[-1]))
    each = [_normed(depth, np.interp(depth, b.depth_m, b.density_pm, right=0.0)) for b in beliefs]
    mixed = np.asarray(sum(w * density for w, density in zip(NODE_WEIGHTS, each, strict=True)))
    return less_m(searched_m(depth, mixed), [searched_m(depth, density) for density in each])


def _normed(depth_m: FloatArray, density: FloatArray) -> FloatArray:
    return np.asarray(density / _mass(depth_m, density))


def _mass(depth_m: FloatArray, density: FloatArray) -> float:
    return float(np.trapezoid(density, depth_m)) if len(depth_m) > 1 else float(density.sum())
