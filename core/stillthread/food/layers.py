"""Where each food is in the water: a density over depth. Common practice, no published source; the widths are ours."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from stillthread.errors import FloatArray
from stillthread.food.catalogue import Food
from stillthread.food.inference import FoodChance

BOTTOMS = 5  # ours: of a bottom that slopes under the cast, so many from near to far stand for all
# How far from its place a food is spread [m]; ours.
FILM_M, MARGIN_M, RISING_M, WEED_TOP_M, OVER_WEED_M, UPPER_M, FLEAS_AT_DUSK_M = 0.25, 0.9, 0.35, 0.7, 0.8, 1.2, 1.0
SAMPLED_M, LARVA_SAMPLED_M = 0.35, 0.2
TOP_OF_WEED_M, UPPER_AT_M = 0.6, 0.8  # ours: where most of it is under the surface
CLIMBING = 0.18  # ours: what is spread along the climb, beside those that wait
OVER_WEED = 0.8  # ours: what is over the weed itself, beside what is near the top
LIGHT_WIDTH = 1.2  # ours: fleas keep within about a factor e of their light
GATHER_SHARE = 0.3  # ours: of shallow water, no farther off the bottom than this share
CRUISE_M, CRUISE_SHARE, CRUISE_MOST_M, CRUISE_AT = 0.3, 0.22, 0.9, 0.45  # ours: how far above bottom food they cruise
WEED_ENDS = 1.2  # ours: a bottom this many times as deep as weed grows holds least
GATHER_M = 0.45  # common practice: pupae gather one to two feet off the bottom before they rise
LARVA_M = 0.12  # common practice: four to six inches off the bottom
DIM_LIGHT = 0.03  # ours: the share of daylight that water fleas keep to
WEED_SECCHI = 2.5  # common practice: weed grows down to about two and a half Secchi depths


@dataclass(kw_only=True, frozen=True, slots=True)
class Column:
    """The water that food lives in.

    `depth_m` (n_depth,) rises from 0 to the deepest bottom, `light` (n_depth,) is the daylight there, 0 to 1, and
    `brightness` that on the water; `bottom_m` and `far_m` are the bottom's depths near and far [m], `weed_m` how high weed
    stands. `close` foods are known to be where their kind is at its tightest: sampled, or nothing shows above.
    """

    depth_m: FloatArray
    light: FloatArray
    brightness: float
    bottom_m: float
    far_m: float
    weed_m: float = 0.0
    secchi_m: float = 3.0
    sampled: frozenset[str] = frozenset()
    nothing_shows: bool = False

    @property
    def bottoms_m(self) -> FloatArray:
        """The depths [m] that stand for the bottom, one where it is level."""
        if abs(self.far_m - self.bottom_m) < 0.05:
            return np.array([self.bottom_m])
        return np.linspace(self.bottom_m, self.far_m, BOTTOMS)


def _bell(x: FloatArray, width_m: float) -> FloatArray:
    return np.asarray(np.exp(-((x / width_m) ** 2)))


def layer_density(chance: FoodChance, column: Column) -> FloatArray:
    """Return what share of a food is at each depth of the grid, summing to 1, shape (n_depth,).

    Over a bottom that slopes, the layers that hang on it are averaged from near to far.
    """
    width = np.gradient(column.depth_m)
    layers = [_over(chance, column, bottom_m) * width for bottom_m in column.bottoms_m]
    return np.asarray(sum(layer / layer.sum() for layer in layers) / len(layers))


def _over(chance: FoodChance, column: Column, bottom_m: float) -> FloatArray:
    layer, depth = chance.layer, column.depth_m
    above = bottom_m - depth
    if chance.top_m is not None:
        share = _bell(depth, chance.top_m)
    elif layer == "film":
        share = _bell(depth, FILM_M)
    elif layer == "rising":
        # Most wait and start a little off the bottom; the rest are spread along the climb.
        share = _bell(above - min(GATHER_M, GATHER_SHARE * bottom_m), RISING_M) + CLIMBING
    elif layer == "bottom":
        share = _on_bottom(chance.food, column, bottom_m)
    elif layer == "weed":
        share = _bell(depth - TOP_OF_WEED_M, WEED_TOP_M) + OVER_WEED * _bell(above - column.weed_m, OVER_WEED_M)
    elif layer == "margin":
        share = _bell(depth, MARGIN_M)
    elif layer == "light":
        # Water fleas keep to a dim light: deep under a bright sun, near the top at dusk.
        dim = np.exp(-((np.log((column.light + 1e-4) / DIM_LIGHT) / LIGHT_WIDTH) ** 2))
        share = np.asarray(dim) if column.brightness > DIM_LIGHT else _bell(depth, FLEAS_AT_DUSK_M)
    else:
        # Nothing in particular: as much in the upper water as wherever they are.
        upper = _bell(depth - UPPER_AT_M, UPPER_M)
        share = upper / float(np.trapezoid(upper, depth)) + 1.0 / float(depth[-1])
    return np.where(above >= -1e-9, share, 0.0) + 1e-6


def _on_bottom(food: Food, column: Column, bottom_m: float) -> FloatArray:
    above = bottom_m - column.depth_m
    weed = 0.5 * column.weed_m
    if food.key in column.sampled and food.key == "midge-larva":
        return _bell(above - weed - LARVA_M, LARVA_SAMPLED_M + weed)
    if food.key in column.sampled or column.nothing_shows:
        return _bell(above - weed, SAMPLED_M + weed)
    # Fish on bottom food cruise above it: the deeper, the more of the water they use.
    width = min(CRUISE_M + CRUISE_SHARE * bottom_m, CRUISE_MOST_M)
    return _bell(above - weed - CRUISE_AT * width, width + weed)


def bottom_holds(food: Food, column: Column, least: float) -> float:
    """Return how much of its food a bottom too dark for weed still holds, `least` to 1."""
    if food.layer not in {"bottom", "weed"} or food.key in column.sampled or food.key == "midge-larva":
        return 1.0
    mean_m = float(column.bottoms_m.mean())
    return float(np.clip(WEED_ENDS - mean_m / (WEED_SECCHI * column.secchi_m), least, 1.0))
