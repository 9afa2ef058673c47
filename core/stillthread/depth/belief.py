"""The belief: how likely trout are to feed at each depth, on which food, and what a fly at some depth is worth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from stillthread.depth.factors import LEAST_SHARE, Factor, food_factor
from stillthread.depth.seen import nothing_factor, seen_factor, seen_layer
from stillthread.errors import FloatArray, check_range
from stillthread.food.inference import FoodChance, FoodPicture
from stillthread.food.layers import Column, bottom_holds, layer_density
from stillthread.food.signs import Sign
from stillthread.judgement import JUDGEMENT, Judgement
from stillthread.learn.leaning import Lean
from stillthread.trade.usual import BAND_MASS
from stillthread.water.comfort import depth_bands

SLIVER_MASS = 0.1  # ours: a band that holds less is not spoken of


@dataclass(frozen=True, slots=True)
class FeedingOn:
    """Trout on one food: `chance` with its probability, `density_pm` (n_depth,) where they then are, per metre."""

    chance: FoodChance
    density_pm: FloatArray


@dataclass(frozen=True, slots=True)
class Belief:
    """Where trout feed.

    `depth_m` (n_depth,) is the grid, `density_pm` (n_depth,) the probability per metre, `reach_up_m` how far they
    rise to what they chase, and `factors` the reasons. `feeding` says on which food, where; together they are the density.
    """

    depth_m: FloatArray
    density_pm: FloatArray
    reach_up_m: float
    factors: tuple[Factor, ...]
    feeding: tuple[FeedingOn, ...] = ()

    def mass(self) -> FloatArray:
        """Return the probability of each grid depth, shape (n_depth,), summing to 1."""
        width = np.gradient(self.depth_m) if len(self.depth_m) > 1 else np.ones(1)
        mass = self.density_pm * width
        return np.asarray(mass / mass.sum())

    def bands(self, mass: float = float(BAND_MASS)) -> tuple[tuple[float, float], ...]:
        """Return the shortest set of depths [m] that holds this much probability, as (top, bottom) runs."""
        check_range("mass", mass, 0.01, 0.99, "")
        each = self.mass()
        order = np.argsort(-self.density_pm, kind="stable")
        needed = int(np.searchsorted(np.cumsum(each[order]), mass)) + 1
        inside = np.zeros(len(each), dtype=np.bool_)
        inside[order[:needed]] = True
        runs = depth_bands(self.depth_m, inside)
        # Slivers beside the main band are noise of the grid, not places to fish.
        kept = tuple(run for run in runs if self.chance_of(run) >= SLIVER_MASS)
        return kept or runs

    def chance_of(self, band: tuple[float, float]) -> float:
        """Return the probability of a run of depths [m], 0 to 1."""
        return float(self.mass()[(self.depth_m >= band[0]) & (self.depth_m <= band[1])].sum())

    @property
    def main_band(self) -> tuple[float, float]:
        """The likeliest run of `bands`: (top, bottom) [m]."""
        return max(self.bands(), key=self.chance_of)

    @property
    def mean_m(self) -> float:
        return float((self.mass() * self.depth_m).sum())

    def worth(self, depth_m: FloatArray, judgement: Judgement = JUDGEMENT) -> FloatArray:
        """Return the chance that a feeding trout can take a fly that it would chase at each of these depths.

        A fish feeding at depth c takes it from `reach_up_m` above it to hardly below it.

        Parameters
        ----------
        depth_m : array, shape (n,)

        Returns
        -------
        array, shape (n,)
            0 to 1.
        """
        return np.asarray(window(self.depth_m[None, :], depth_m[:, None], self.reach_up_m, judgement.below_m) @ self.mass())


def window(fish_m: FloatArray, fly_m: FloatArray, reach_m: float, below_m: float) -> FloatArray:
    """Return how surely a fish at one depth [m] takes a fly at another, which it would move `reach_m` [m] up for; broadcasts.

    A bell above the fish; below it one of `below_m` [m], since trout look up.
    """
    up = (fish_m - fly_m) / reach_m
    down = (fly_m - fish_m) / below_m
    return np.asarray(np.exp(-np.where(up > 0.0, up**2, down**2)))


def chase_m(secchi_m: float, judgement: Judgement = JUDGEMENT) -> float:
    """Return how far trout move for what they chase [m]: several feet in clear water, inches in coloured."""
    return float(np.clip(judgement.chase_secchi * secchi_m, judgement.chase_least_m, judgement.chase_most_m))


def form_belief(
    column: Column,
    factors: Sequence[Factor],
    foods: FoodPicture,
    signs: Sequence[Sign] = (),
    judgement: Judgement = JUDGEMENT,
) -> tuple[Belief, FoodPicture]:
    """Return the belief, and the foods weighed by how far trout can be where they are.

    What is expected is a mixture over foods: where each food is, and about it, as far as water and light let trout be there.
    What is seen is evidence of depth itself and outweighs that (`seen_layer`). Nothing rules a depth out.

    Parameters
    ----------
    column : Column
        The water that food lives in.
    factors : sequence of Factor
        What lets trout be at each depth, each with `share` of shape (n_depth,).
    foods : FoodPicture
        Each food with its probability.
    signs : sequence of Sign
        As seen.
    """
    depth = column.depth_m
    width = np.gradient(depth)
    lets = np.ones_like(depth)
    for factor in factors:
        lets = lets * np.maximum(factor.share, LEAST_SHARE)
    lets = lets / float(lets.max())
    roams = roaming(column, signs, judgement)
    even = width / width.sum()
    about = {c.food.key: roams * even + (1.0 - roams) * layer_density(c, column) for c in foods.chances}
    weight, layer = seen_layer(depth, signs)
    # Where fish were seen they can be, whatever light and warmth say.
    can_be = lets if weight == 0.0 else (1.0 - weight) * lets + weight * layer / width / float((layer / width).max())
    fits = {key: float((can_be * share).sum()) for key, share in about.items()}
    held = {c.food.key: bottom_holds(c.food, column, judgement.dim_bottom_least) for c in foods.chances}
    foods = foods.weighed({key: held[key] * fit**judgement.fit_power for key, fit in fits.items()})
    empties = nothing_factor(depth, judgement) if column.nothing_shows else None
    feeding = []
    for chance in foods.chances:
        expected = lets * about[chance.food.key] * (1.0 if empties is None else empties.share)
        mass = (1.0 - weight) * expected / expected.sum() + weight * layer
        feeding.append(FeedingOn(chance, mass / width))
    density = np.asarray(sum(on.chance.probability * on.density_pm for on in feeding))
    density = density / float(np.trapezoid(density, depth))
    drawn = np.asarray(sum(c.probability * about[c.food.key] for c in foods.chances)) / width
    reasons = [*factors, food_factor(foods, drawn)]
    if empties is not None:
        reasons.append(empties)
    if weight > 0.0:
        reasons.append(seen_factor(layer / width, weight, signs))
    return Belief(depth, density, chase_m(column.secchi_m, judgement), tuple(reasons), tuple(feeding)), foods


def leaned(belief: Belief, foods: FoodPicture, lean: Lean) -> tuple[Belief, FoodPicture]:
    """Return the belief and the foods as an angler's own log moves them: every depth by its factor, whatever they feed on."""
    depth = belief.depth_m
    factor = lean.factor(depth)
    moved = {on.chance.food.key: on.density_pm * factor for on in belief.feeding}
    mass = {key: float(np.trapezoid(density, depth)) for key, density in moved.items()}
    foods = foods.weighed(mass)
    chances = {chance.food.key: chance for chance in foods.chances}
    feeding = tuple(FeedingOn(chances[key], density / mass[key]) for key, density in moved.items())
    density = belief.density_pm * factor
    density = density / float(np.trapezoid(density, depth))
    reasons = (*belief.factors, Factor("log", "Your log", factor / float(factor.max()), lean.why))
    return replace(belief, density_pm=density, factors=reasons, feeding=feeding), foods


def roaming(column: Column, signs: Sequence[Sign], judgement: Judgement) -> float:
    """Return the share of trout that are away from their food's layer: fewer, the more is known of what they are on."""
    if column.sampled or any(sign.tells is not None for sign in signs):
        return judgement.roam_surface
    if signs:
        return judgement.roam_signs
    return judgement.roam_shallow if float(column.bottoms_m.mean()) < judgement.shallow_m else judgement.roam_unseen
