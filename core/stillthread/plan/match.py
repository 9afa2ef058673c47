"""How well a fly, fished at some pace, answers what trout are likely on."""

from __future__ import annotations

import math
from dataclasses import dataclass

from stillthread.depth.picture import WaterPicture
from stillthread.food.catalogue import Food
from stillthread.food.inference import FoodPicture
from stillthread.sourced import Sourced
from stillthread.tackle.flybox import BoxFly

SEARCHING = Sourced(0.20, "1", "ours", "what a fly is worth on a food it does not imitate: trout try things")
ATTRACTS = Sourced(0.32, "1", "ours", "the same for an attractor or lure, which is made for that")
OUT_OF_FILM = Sourced(0.06, "1", "ours", "a dry fly where they eat under water")
SLOWEST_MPS = 0.005
PACE_WIDTH = 0.9  # ours: a pace e^0.9 times too fast or slow is worth three fifths
BRIGHT = frozenset({"orange", "red", "yellow", "white", "silver", "pink", "gold"})
COLOURED_WATER_M, CLEAR_WATER_M = 1.5, 4.0


@dataclass(frozen=True, slots=True)
class Setting:
    """What a fly is seen in: `secchi_m` [m] and `brightness` 0 to 1 on the water."""

    secchi_m: float
    brightness: float


def setting_of(picture: WaterPicture) -> Setting:
    return Setting(picture.conditions.secchi_m, picture.brightness)


def matcher_of(picture: WaterPicture) -> Matcher:
    return Matcher(picture.foods, setting_of(picture))


def affinity(fly: BoxFly, food: Food) -> float:
    """Return how far a fly passes for a food, 0 to 1."""
    if food.key in fly.foods:
        return 1.0
    if food.key == "attractor" and fly.style in {"attractor", "lure"}:
        return 0.9
    if fly.style == "dry" and food.layer != "film":
        return float(OUT_OF_FILM)
    return float(ATTRACTS if fly.style in {"attractor", "lure"} else SEARCHING)


def pace_share(food: Food, speed_mps: float) -> float:
    """Return how well a speed [m/s] is that of a food, 0 to 1: one within its range, less outside by the ratio.

    Examples
    --------
    >>> from stillthread.food.catalogue import FOODS
    >>> round(pace_share(FOODS["damsel-nymph"], 0.2), 2), round(pace_share(FOODS["midge-pupa"], 0.4), 2)
    (1.0, 0.04)
    """
    low, high = food.speed_mps
    speed = max(speed_mps, SLOWEST_MPS)
    if low <= speed <= max(high, SLOWEST_MPS):
        return 1.0
    off = math.log(max(low, SLOWEST_MPS) / speed) if speed < low else math.log(speed / max(high, SLOWEST_MPS))
    return math.exp(-0.5 * (off / PACE_WIDTH) ** 2)


def colour_share(colour: str, setting: Setting) -> float:
    """Return how a colour does in this water. Common practice: silhouettes and hot spots in coloured, natural in clear."""
    words = set(colour.lower().replace("-", " ").split())
    bright, dark = bool(words & BRIGHT), "black" in words
    if setting.secchi_m < COLOURED_WATER_M:
        return 1.15 if bright or dark else 0.8
    if setting.secchi_m > CLEAR_WATER_M and setting.brightness > 0.3:
        return 0.8 if bright else 1.05
    return 1.0


def size_share(fly: BoxFly, food: Food) -> float:
    """Return how well the hook is of the food's size, 0 to 1."""
    low, high = food.hooks
    off = max(low - fly.fly.hook_size, fly.fly.hook_size - high, 0)
    return math.exp(-((off / 6.0) ** 2))


def match(fly: BoxFly, speed_mps: float, foods: FoodPicture, setting: Setting) -> float:
    """Return the chance-weighted worth of a fly at a speed [m/s], 0 to about 1.

    The likelier foods count more; the fly is judged against each for kind, size and pace, and once for colour.
    """
    return Matcher(foods, setting).worth(fly, speed_mps)


class Matcher:
    """`match` for one water and many flies: a plan asks of each fly and speed many times, and is told what it was told."""

    def __init__(self, foods: FoodPicture, setting: Setting) -> None:
        self.foods, self.setting = foods, setting
        self._paced: dict[float, list[tuple[Food, float]]] = {}
        # By the fly itself, held so that its place in memory stays its own: two in a box may bear one name.
        self._known: dict[tuple[int, float], tuple[BoxFly, float]] = {}

    def worth(self, fly: BoxFly, speed_mps: float) -> float:
        """Return the worth of a fly at a speed [m/s]; see `match`."""
        key = (id(fly), speed_mps)
        if key not in self._known:
            total = sum(
                weight * affinity(fly, food) * (size_share(fly, food) if food.key in fly.foods else 1.0)
                for food, weight in self._weights(speed_mps)
            )
            self._known[key] = (fly, total * colour_share(fly.colour, self.setting))
        return self._known[key][1]

    def _weights(self, speed_mps: float) -> list[tuple[Food, float]]:
        """Return each food with its probability, less what the pace costs."""
        if speed_mps not in self._paced:
            paced = [(c.food, c.probability * pace_share(c.food, speed_mps)) for c in self.foods.chances]
            self._paced[speed_mps] = paced
        return self._paced[speed_mps]


def passes_for(fly: BoxFly, foods: FoodPicture) -> tuple[str, float]:
    """Return the name of the likeliest food that a fly imitates and its probability; ("", 0) for one that imitates none."""
    for chance in foods.chances:
        if chance.food.key in fly.foods:
            return chance.food.name, chance.probability
    return "", 0.0
