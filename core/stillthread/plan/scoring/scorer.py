"""The one scorer: expected takes an hour of any way to fish, from where its flies are and what they are worth there."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import numpy.typing as npt

from stillthread.depth.belief import window
from stillthread.depth.factors import LEAST_SHARE
from stillthread.errors import FloatArray
from stillthread.plan.exposure import Exposure
from stillthread.plan.methods.base import Given, Method
from stillthread.plan.option import Option
from stillthread.plan.scoring.match import Answer, Matcher
from stillthread.rules.water_rules import LURE_STYLES
from stillthread.sinking.action import LEAST_LEFT, Action
from stillthread.sinking.cast import LAYER_M
from stillthread.tackle.flybox import BoxFly
from stillthread.trade.schools import School
from stillthread.trade.usual import STILL_MPS

FISH_DEPTHS = 60  # ours: depths at which fish are thought of, closer where they are likelier
WINDY_MPS = 7.0  # common practice: several flies tangle above it
SHIFT_M = 1.0
CALM_MPS = 2.5  # common practice: below this the surface is flat
SNAGS_A_TIME = 4.0  # ours: a time all in weed fouls so often
SLOPE_PARTS = 5  # ours: a grid
SLOWEST_PRESSES = 0.5  # ours: pressed fish turn from anything that moves, the slowest included
STILL_DISTURBS = 0.1  # ours: what even a hanging fly shows on a flat, bright surface


@dataclass(frozen=True, slots=True)
class Ground:
    """Where fish are, for scoring: `fish_m` (n_fish,) the depths at which they are thought of [m]; `q` (n_food, n_fish) the
    chance of each food times that of each depth times how much they feed there; `takes` (n_layer, n_reach * n_fish) how surely
    a fish at a depth takes a fly in a layer."""

    fish_m: FloatArray
    q: FloatArray
    takes: FloatArray


class Scorer:
    """Scores ways to fish under one picture. What each depth is worth is worked out once, and once for fish a metre off.

    The formulas are told in docs/judgement.md.
    """

    def __init__(self, given: Given, school: School) -> None:
        self.given, self.school = given, school
        self.picture, self.setting = given.picture, given.setting
        self.j = given.setting.judgement
        self.matcher = Matcher(self.picture.foods, self.setting)
        deepest = self.picture.conditions.deepest_m
        self.layers = LAYER_M * (np.arange(int(deepest / LAYER_M) + 1, dtype=np.float64) + 0.5)
        self.bands = self.picture.belief.bands()
        self.inside = np.stack([(self.layers >= top) & (self.layers <= bottom + LAYER_M) for top, bottom in self.bands])
        self._grounds: dict[float, Ground] = {}

    def ground(self, shift_m: float = 0.0) -> Ground:
        """Return where the fish are, all of them `shift_m` [m] lower."""
        if shift_m not in self._grounds:
            self._grounds[shift_m] = self._ground(shift_m)
        return self._grounds[shift_m]

    def _ground(self, shift_m: float) -> Ground:
        picture, belief = self.picture, self.picture.belief
        grid = belief.depth_m
        width = np.gradient(grid)
        by_key = {on.chance.food.key: on.density_pm * width for on in belief.feeding}
        goal = np.clip(grid + shift_m, grid[0], grid[-1])
        feeds = np.interp(goal, grid, picture.activity)
        masses = np.array([by_key[c.food.key] * c.probability for c in self.matcher.chances]).reshape(-1, len(grid))
        # Depths are gathered where many fish are, so that a deep lake costs no more than a pond.
        weight = 0.5 * masses.sum(axis=0) / masses.sum() + 0.5 / len(grid)
        group = np.minimum((FISH_DEPTHS * (np.cumsum(weight) - 0.5 * weight)).astype(np.int64), FISH_DEPTHS - 1)
        group = np.unique(group, return_inverse=True)[1]
        n = int(group.max()) + 1
        q = np.array([np.bincount(group, weights=row * feeds, minlength=n) for row in masses])
        total = np.bincount(group, weights=weight, minlength=n)
        fish_m = np.bincount(group, weights=weight * goal, minlength=n) / total
        lets = self._lets(grid)
        at_fly = np.interp(self.layers, grid, lets)
        at_fish = np.interp(fish_m, grid, lets)
        rises = np.minimum(at_fly[:, None] / at_fish[None, :], 1.0) ** self.j.rise_power
        takes = [
            window(fish_m[None, :], self.layers[:, None], reach, self.j.below_m) * rises for reach in self.matcher.reaches_m
        ]
        return Ground(fish_m, q, np.concatenate(takes, axis=1))

    def _lets(self, grid: FloatArray) -> FloatArray:
        """Return how light and warmth let fish be at each depth: they do not come up into what they avoid."""
        shares = {factor.key: np.maximum(factor.share, LEAST_SHARE) for factor in self.picture.belief.factors}
        return np.asarray(shares["light"] * shares["temperature"])

    @cached_property
    def _skin(self) -> FloatArray:
        """What the top of the water leaves of a wet fly's worth in each layer, shape (n_layer,)."""
        return np.where(self.layers < self.j.skin_m, 1.0 - self.j.skin_cost, 1.0)

    @cached_property
    def _passes_more(self) -> float:
        """How many more fish a moved fly passes, as a share."""
        return self.j.passes_more * self.setting.unpinned * self.picture.feeding_activity

    @cached_property
    def _uneven(self) -> FloatArray:
        """Share of the time that a moved fly in each layer is not lost on an uneven bottom, shape (n_layer,)."""
        given = self.picture.conditions
        far = given.bottom_depth_m if given.far_bottom_depth_m is None else given.far_bottom_depth_m
        shares = []
        for bottom in np.linspace(given.bottom_depth_m, far, SLOPE_PARTS if far != given.bottom_depth_m else 1):
            above = np.maximum(bottom - given.weed_m - self.layers, 0.0)
            shares.append(1.0 - self.j.uneven_cost * np.exp(-((above / self.j.uneven_m) ** 2)))
        return np.asarray(np.mean(shares, axis=0))

    def seen(self, exposure: Exposure, flies: Sequence[BoxFly], action: Action, shift_m: float = 0.0) -> FloatArray:
        """Return how surely fish at each depth are offered each fly, of all the time, shape (n_fly, n_reach, n_fish)."""
        share = exposure.layer_s / action.cycle_s(exposure.duration_s)
        moved = action.pace_mps >= float(STILL_MPS)
        for k, fly in enumerate(flies):
            if fly.style != "dry":
                share[k] *= self._skin
            if moved and not fly.buoyant:
                share[k] *= self._uneven
        return np.asarray(share @ self.ground(shift_m).takes).reshape(len(flies), len(self.matcher.reaches_m), -1)

    def answers(self, flies: Sequence[BoxFly], action: Action) -> Answer:
        return self.matcher.answers(flies, action.pace_mps)

    def each(self, seen: FloatArray, answers: Answer) -> FloatArray:
        """Return what each fly offers, by food and fish depth, shape (n_fly, n_food, n_fish)."""
        return np.asarray(seen[np.arange(len(seen))[:, None], answers.reach_index] * answers.weight[:, :, None])

    def union(self, offered: FloatArray, seen: FloatArray, flies: Sequence[BoxFly], shift_m: float = 0.0) -> float:
        """Return what a team offers together: by food and depth the best of its flies, and a little of the others.

        Followers of an attractor take the natural below and near it: where both are in sight of a fish, it gains.
        """
        if len(flies) > 1:
            chase = len(self.matcher.reaches_m) - 1
            offered = offered.copy()
            for k, fly in enumerate(flies):
                above = [j for j in range(k + 1, len(flies)) if flies[j].style in LURE_STYLES]
                if fly.style == "natural" and above:
                    near = np.minimum(seen[above, chase].max(axis=0) / np.maximum(seen[k, chase], 1e-9), 1.0)
                    offered[k] = offered[k] * (1.0 + self.j.hands_on * near)
        best = offered.max(axis=0)
        together = best + self.j.second_fly * (offered.sum(axis=0) - best)
        return float((self.ground(shift_m).q * together).sum())

    def takes_ph(self, option: Option, exposure: Exposure, shift_m: float = 0.0, wind_mps: float | None = None) -> float:
        """Return expected takes an hour; with fish `shift_m` [m] lower, or another wind [m/s], if so asked."""
        seen = self.seen(exposure, option.flies, option.action, shift_m)
        offered = self.each(seen, self.answers(option.flies, option.action))
        worth = self.union(offered, seen, option.flies, shift_m)
        return worth * self.costs(option.method, option.flies, option.action, exposure, wind_mps)

    def costs(
        self,
        method: Method,
        flies: Sequence[BoxFly],
        action: Action,
        exposure: Exposure,
        wind_mps: float | None = None,
    ) -> float:
        """Return takes an hour for each unit of what a way offers: the scale, less what spoils it."""
        share = (
            self.undisturbed(action, wind_mps, float(exposure.middle_m.mean()))
            * self.of_team(flies)
            * self.of_snags(action, exposure)
        )
        # A float that is lifted now and then passes no more fish for it.
        if action.pace_mps >= float(STILL_MPS) and action.passes:
            share *= 1.0 + self._passes_more
        return self.j.takes_ph * share * method.suits_now(self.given, exposure, len(flies))

    def of_team(self, flies: Sequence[BoxFly]) -> float:
        """Return what the number of flies, and bright ones before shy fish, leave of a way's worth."""
        lures = sum(fly.style in LURE_STYLES for fly in flies)
        return float(self.of_numbers(len(flies), lures))

    def of_numbers(self, flies: int, lures: int | npt.NDArray[np.int64]) -> npt.NDArray[np.float64]:
        """Return what so many flies, so many of them lures or attractors, leave of a way's worth, shape of `lures`."""
        each = (1.0 - self._each_fly) ** max(flies - 1, 0)
        return np.asarray(each * (1.0 - self.j.lure_shy_cost * self.setting.shy) ** lures)

    @cached_property
    def _each_fly(self) -> float:
        each = self.j.fly_cost + self.j.fly_cost_shy * self.setting.shy
        return each + (self.j.fly_cost_windy if self.setting.wind_mps > WINDY_MPS else 0.0)

    def of_snags(self, action: Action, exposure: Exposure) -> float:
        """Return what weed and bottom leave of a way's worth: the fly is fouled, and time is lost."""
        snag = exposure.weed_s / max(exposure.duration_s, 1.0)
        cycle = action.cycle_s(exposure.duration_s)
        lost_s = 60.0 * self.j.snag_min * SNAGS_A_TIME * snag
        return (1.0 - self.j.contact_cost * snag) * cycle / (cycle + lost_s)

    def undisturbed(self, action: Action, wind_mps: float | None = None, depth_m: float = 0.0) -> float:
        """Return what glare, pressure, cold and wind leave of a way's worth; `depth_m` [m] is where its flies work.

        Glare is of the surface: the deeper the flies, the less a flat, bright one shows them for what they are.
        """
        j, setting = self.j, self.setting
        wind = setting.wind_mps if wind_mps is None else wind_mps
        speed = action.pace_mps
        still = speed < float(STILL_MPS)
        calm = max(0.0, 1.0 - wind / CALM_MPS)
        disturbs = STILL_DISTURBS if still else min(max(speed / j.brisk_mps, STILL_DISTURBS), 1.0)
        glare = min(j.glare_cost * calm * setting.bright * (1.0 + 0.5 * setting.cold), 1.0) * math.exp(-depth_m / j.glare_m)
        left = 1.0 - glare * (STILL_DISTURBS if still else 1.0)
        if not still:
            left *= 1.0 - (j.pressed_cost * min(disturbs + SLOWEST_PRESSES, 1.0) if setting.pressed else 0.0)
            left *= 1.0 - j.cold_cost * setting.cold * disturbs
        left *= action.left(j, wind)
        return left * max(1.0 - j.gale_cost * max(wind - j.gale_from_mps, 0.0), LEAST_LEFT)

    def lean(self, action: Action) -> float:
        """Return how far the angler's school tips the scales."""
        return self.school.lean(still=action.pace_mps < float(STILL_MPS))
