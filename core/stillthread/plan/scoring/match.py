"""What a fly is worth on each food, fished at some pace: how far it passes for it, and how far they move for it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from stillthread.depth.belief import chase_m
from stillthread.errors import FloatArray
from stillthread.food.inference import FoodChance, FoodPicture
from stillthread.food.substitutes import SUBSTITUTES
from stillthread.judgement import JUDGEMENT
from stillthread.plan.scoring.setting import Setting
from stillthread.rules.water_rules import LURE_STYLES
from stillthread.tackle.flybox import BoxFly
from stillthread.trade.usual import BRIGHT_COLOURS, STILL_MPS, colour_words

SLOWEST_MPS = 0.005  # ours: as fast as a fly that hangs
DULL_IN_COLOUR = 0.75  # common practice: silhouettes and hot spots in coloured water; the number is ours
SLIM_IN_COLOUR = 0.8  # common practice: a silhouette has to be one; the number is ours
BRIGHT_IN_CLEAR = 0.85  # common practice: natural and slim in clear; the number is ours
COLOURED_WATER_M, CLEAR_WATER_M = 1.5, 4.0  # ours: Secchi depths
SMALL_IN_COLOUR = ((12, 0.75), (14, 0.6))  # ours: a small fly is found by few in coloured water
SAMPLED_COLOUR = 0.85  # ours: a fly of another colour than they are on
ATTRACTOR_AS_NOTHING = 0.9  # ours
SEARCHER_AS_NOTHING, NATURAL_AS_NOTHING, DRY_AS_NOTHING = 0.45, 0.30, 0.15  # ours
NATURAL_SEARCHES = 0.8  # ours: a fly tied for another food is tried less than one tied for none
LEAST_CHANCE = 0.01  # ours: rarer foods choose no fly
MOST_FOODS = 10  # ours: rarer ones choose no fly


@dataclass(frozen=True, slots=True)
class Answer:
    """How one fly at one pace answers each food: `weight` (n_food,), and `reach_index` (n_food,) into the matcher's reaches."""

    weight: FloatArray
    reach_index: npt.NDArray[np.int64]


def pace_share(speed_range_mps: tuple[float, float], speed_mps: float, width: float = JUDGEMENT.pace_width) -> float:
    """Return how well a speed [m/s] is that of a food, 0 to 1: one within its range, less outside by the ratio.

    Examples
    --------
    >>> round(pace_share((0.10, 0.30), 0.2), 2), round(pace_share((0.0, 0.04), 0.4), 2)
    (1.0, 0.04)
    """
    low, high = speed_range_mps
    speed = max(speed_mps, SLOWEST_MPS)
    if low <= speed <= max(high, SLOWEST_MPS):
        return 1.0
    off = math.log(max(low, SLOWEST_MPS) / speed) if speed < low else math.log(speed / max(high, SLOWEST_MPS))
    return math.exp(-0.5 * (off / width) ** 2)


def colour_share(fly: BoxFly, setting: Setting) -> float:
    """Return how a fly's colour and size do in this water. Common practice: silhouettes and hot spots in coloured, natural in
    clear."""
    words = colour_words(fly.colour)
    bright, dark = bool(words & BRIGHT_COLOURS), "black" in words
    if setting.secchi_m < COLOURED_WATER_M:
        small = min((share for hook, share in SMALL_IN_COLOUR if fly.fly.hook_size >= hook), default=1.0)
        slim = SLIM_IN_COLOUR if fly.fly.dressing == "slim" else 1.0
        return small * slim * (1.0 if bright or dark else DULL_IN_COLOUR)
    if setting.secchi_m > CLEAR_WATER_M and setting.brightness > 0.3 and fly.style != "dry":
        return BRIGHT_IN_CLEAR if bright else 1.0
    return 1.0


def size_share(hook_size: int, hooks: tuple[int, int]) -> float:
    """Return how well a hook is of a food's size, 0 to 1; `hooks` from the largest to the smallest number that is.

    Examples
    --------
    >>> size_share(12, (10, 14)), round(size_share(8, (12, 14)), 2)
    (1.0, 0.64)
    """
    low, high = hooks
    off = max(low - hook_size, hook_size - high, 0)
    return math.exp(-((off / 6.0) ** 2))


@dataclass(frozen=True, slots=True)
class _Tied:
    """What a fly was tied for, before its pace counts, by food: `worth` (3, n_food) as what it passes for, as something to try
    and as something to chase at the right pace; `reach` (2, n_food) how far they move for it as the first and as the rest."""

    fly: BoxFly
    worth: FloatArray
    reach: npt.NDArray[np.int64]


class Matcher:
    """Judges flies against the foods of one water, many at once.

    `chances` are the foods that count, `reaches_m` the different distances trout move for a fly, up to what they chase.
    """

    def __init__(self, foods: FoodPicture, setting: Setting) -> None:
        self.foods, self.setting = foods, setting
        likely = [c for c in foods.chances if c.probability >= LEAST_CHANCE][:MOST_FOODS]
        self.chances: Sequence[FoodChance] = likely
        self.chase_m = chase_m(setting.secchi_m, setting.judgement)
        reaches = [min(c.reach_m, self.chase_m) if c.reach_m is not None else self.chase_m for c in likely]
        self.reaches_m = sorted({*reaches, self.chase_m})
        self.probability = np.array([c.probability for c in likely])
        self._own = np.array([self.reaches_m.index(reach) for reach in reaches], dtype=np.int64)
        # By the fly itself, held so that its place in memory stays its own: two in a box may bear one name.
        self._tied: dict[int, _Tied] = {}
        self._paces: dict[float, tuple[FloatArray, float]] = {}

    def answer(self, fly: BoxFly, speed_mps: float) -> Answer:
        """Return how a fly at a speed [m/s] answers each food of `chances`."""
        every = self.answers((fly,), speed_mps)
        return Answer(every.weight[0], every.reach_index[0])

    def answers(self, flies: Sequence[BoxFly], speed_mps: float) -> Answer:
        """Return how flies at a speed [m/s] answer each food: of an `Answer` both, shape (n_fly, n_food)."""
        tied = [self._of(fly) for fly in flies]
        worth, reach = np.array([one.worth for one in tied]), np.array([one.reach for one in tied])
        if speed_mps not in self._paces:
            self._paces[speed_mps] = (self._pace(speed_mps), self._attracts(speed_mps))
        pace, attracts = self._paces[speed_mps]
        passes, draws = worth[:, 0] * pace, worth[:, 1] + worth[:, 2] * attracts
        return Answer(np.maximum(passes, draws), np.where(passes >= draws, reach[:, 0], reach[:, 1]))

    def worth(self, fly: BoxFly, speed_mps: float) -> float:
        """Return the chance-weighted worth of a fly at a speed [m/s], wherever it is, 0 to about 1."""
        return float(self.answer(fly, speed_mps).weight @ self.probability)

    def likeliest(self, flies: Sequence[BoxFly], speed_mps: float) -> int:
        """Return which of some flies, at least one, is worth most at a speed [m/s]."""
        return int(np.argmax(self.answers(flies, speed_mps).weight @ self.probability))

    def _pace(self, speed_mps: float) -> FloatArray:
        """Return how well a speed is that of each food, shape (n_food,)."""
        j, setting = self.setting.judgement, self.setting
        pace = np.array([pace_share(chance.speed_mps, speed_mps, j.pace_width) for chance in self.chances])
        if speed_mps < float(STILL_MPS):
            hung = j.still_least + j.still_shy * setting.shy + (j.still_pressed if setting.pressed else 0.0)
            swims = np.array([chance.speed_mps[0] > float(STILL_MPS) for chance in self.chances])
            pace = np.where(swims, np.maximum(pace, hung), pace)
        return pace

    def _of(self, fly: BoxFly) -> _Tied:
        if id(fly) not in self._tied:
            worth = np.array([self._on(fly, chance) for chance in self.chances]).reshape(-1, 3).T
            # What is to be chased is chased as far as trout chase; on nothing in particular they have one reach.
            far = np.full_like(self._own, len(self.reaches_m) - 1) if fly.style in LURE_STYLES else self._own
            nothing = np.array([chance.food.key == "attractor" for chance in self.chances], dtype=np.bool_)
            reach = np.stack([self._own, np.where(nothing, self._own, far)])
            self._tied[id(fly)] = _Tied(fly, worth * colour_share(fly, self.setting), reach)
        return self._tied[id(fly)]

    def _on(self, fly: BoxFly, chance: FoodChance) -> tuple[float, float, float]:
        """Return what a fly is worth on a food: as that food at its pace, as something to try, and as something to chase."""
        lure = fly.style in LURE_STYLES
        right_size = size_share(fly.fly.hook_size, self.setting.lure_hooks)
        if chance.food.key == "attractor":
            if lure:
                return 0.0, 0.0, ATTRACTOR_AS_NOTHING * right_size
            dry, natural = fly.style == "dry", bool(fly.foods)
            return 0.0, DRY_AS_NOTHING if dry else NATURAL_AS_NOTHING if natural else SEARCHER_AS_NOTHING, 0.0
        j = self.setting.judgement
        colour = 1.0 if colour_words(fly.colour) & colour_words(" ".join(chance.colours)) else SAMPLED_COLOUR
        shared = len(fly.foods) ** -j.shared_power if fly.foods else 0.0
        passes = _passes(fly, chance.food.key) * shared * size_share(fly.fly.hook_size, chance.hooks) * colour
        if lure:
            return passes, 0.0, (j.attracts_warm if self.setting.warm_months else j.attracts_cold) * right_size
        if fly.style == "dry" and chance.food.layer != "film":
            return passes, j.out_of_film, 0.0
        return passes, j.searches * (NATURAL_SEARCHES if fly.foods else 1.0), 0.0

    def _attracts(self, speed_mps: float) -> float:
        """Return how well a pace suits what is only to be chased, 0 to 1; in cold water slower does."""
        j = self.setting.judgement
        best = j.attract_mps * (1.0 - 0.5 * self.setting.cold)
        return math.exp(-0.5 * (math.log(max(speed_mps, SLOWEST_MPS) / best) / j.pace_width) ** 2)


def _passes(fly: BoxFly, food_key: str) -> float:
    """Return how far a fly passes for a food by what it was tied for, 0 to 1."""
    if food_key in fly.foods:
        return 1.0
    return max((SUBSTITUTES.get((own, food_key), 0.0) for own in fly.foods), default=0.0)


def passes_for(fly: BoxFly, foods: FoodPicture) -> tuple[str, float]:
    """Return the name of the likeliest food that a fly imitates and its probability; ("", 0) for one that imitates none."""
    for chance in foods.chances:
        if chance.food.key in fly.foods:
            return chance.food.name, chance.probability
    return "", 0.0
