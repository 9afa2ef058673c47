"""The belief: how likely trout are to feed at each depth, and what a fly at some depth is worth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from stillthread.depth.factors import LEAST_SHARE, Factor
from stillthread.errors import FloatArray, check_range
from stillthread.sourced import Sourced
from stillthread.water.comfort import depth_bands

BAND_MASS = 0.6
SLIVER_MASS = 0.1
REACH_SHARE = Sourced(
    0.35, "1 of the Secchi depth", "ours", "trout look up: several feet in clear water, inches in coloured (common practice)"
)
LEAST_REACH_M, MOST_REACH_M = 0.15, 1.8
DOWNWARD_M = 0.15  # ours: a fly below the fish is hardly ever taken (common practice)


@dataclass(frozen=True, slots=True)
class Belief:
    """Where trout feed.

    `depth_m` (n_depth,) is the grid, `density_pm` (n_depth,) the probability per metre, `reach_up_m` how far they
    rise to a fly, and `factors` the reasons, whose product it is.
    """

    depth_m: FloatArray
    density_pm: FloatArray
    reach_up_m: float
    factors: tuple[Factor, ...]

    def mass(self) -> FloatArray:
        """Return the probability of each grid depth, shape (n_depth,), summing to 1."""
        width = np.gradient(self.depth_m) if len(self.depth_m) > 1 else np.ones(1)
        mass = self.density_pm * width
        return np.asarray(mass / mass.sum())

    def bands(self, mass: float = BAND_MASS) -> tuple[tuple[float, float], ...]:
        """Return the shortest set of depths [m] that holds this much probability, as (top, bottom) runs."""
        check_range("mass", mass, 0.01, 0.99, "")
        each = self.mass()
        order = np.argsort(-self.density_pm, kind="stable")
        needed = int(np.searchsorted(np.cumsum(each[order]), mass)) + 1
        inside = np.zeros(len(each), dtype=np.bool_)
        inside[order[:needed]] = True
        runs = depth_bands(self.depth_m, inside)
        # Slivers beside the main band are noise of the grid, not places to fish.
        kept = tuple(run for run in runs if self._mass_in(run) >= SLIVER_MASS)
        return kept or runs

    def _mass_in(self, band: tuple[float, float]) -> float:
        return float(self.mass()[(self.depth_m >= band[0]) & (self.depth_m <= band[1])].sum())

    @property
    def main_band(self) -> tuple[float, float]:
        """The likeliest run of `bands`: (top, bottom) [m]."""
        return max(self.bands(), key=self._mass_in)

    @property
    def mean_m(self) -> float:
        return float((self.mass() * self.depth_m).sum())

    def worth(self, depth_m: FloatArray) -> FloatArray:
        """Return the chance that a feeding trout can take a fly at each of these depths.

        A fish feeding at depth c takes a fly from `reach_up_m` above it to hardly below it.

        Parameters
        ----------
        depth_m : array, shape (n,)

        Returns
        -------
        array, shape (n,)
            0 to 1.
        """
        above = (self.depth_m[None, :] - depth_m[:, None]) / self.reach_up_m
        below = (depth_m[:, None] - self.depth_m[None, :]) / DOWNWARD_M
        window = np.exp(-np.where(above > 0.0, above**2, below**2))
        return np.asarray(window @ self.mass())


def form_belief(depth_m: FloatArray, factors: Sequence[Factor], secchi_m: float) -> Belief:
    """Return the belief as the product of its factors, none of which rules a depth out.

    Parameters
    ----------
    depth_m : array, shape (n_depth,)
        Rising from 0 to the bottom [m].
    factors : sequence of Factor
        Each with `share` of shape (n_depth,).
    secchi_m : float
        Clarity [m], which sets how far trout come up.
    """
    product = np.ones_like(depth_m)
    for factor in factors:
        product = product * np.maximum(factor.share, LEAST_SHARE)
    density = product / np.trapezoid(product, depth_m)
    reach = float(np.clip(float(REACH_SHARE) * secchi_m, LEAST_REACH_M, MOST_REACH_M))
    return Belief(depth_m, density, reach, tuple(factors))
