"""Which food trout are on: season and warmth first, then signs and a throat sample, by Bayes."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np

from stillthread.errors import BadInput, FloatArray, check_range
from stillthread.food.catalogue import FOODS, Food
from stillthread.food.signs import SIGNS, Sign
from stillthread.phrase import Phrase
from stillthread.sourced import Sourced
from stillthread.water.seasonal import northern_day

SAMPLE_TELLS = Sourced(0.80, "1", "ours", "chance that one item of a throat sample is the food the fish was on")
SAMPLE_HALF_LIFE_H = Sourced(3.0, "h", "common-practice", "a sample older than a few hours weighs less; the number is ours")
MOST_ITEMS = Sourced(8.0, "1", "ours", "items of one stomach do not err apart: more than this add nothing")
MIXED_WEIGHS = Sourced(0.3, "1", "common-practice", "tiny mixed items mean keyed on nothing; the number is ours")
TINY_MM = 4.0
_EVENING_HOURS = (18.0, 24.0)


@dataclass(frozen=True, slots=True)
class SampleItem:
    """So many of one food in a throat sample; `size_mm` [mm] if measured, 0.5 to 150; `colour` as it looked, if noted."""

    food_key: str
    count: int
    size_mm: float | None = None
    colour: str = ""

    def __post_init__(self) -> None:
        if self.food_key not in FOODS:
            raise BadInput(f"food {self.food_key!r} is not known. Known: {', '.join(FOODS)}.", field="food_key")
        check_range("count", self.count, 1, 500, "")
        if self.size_mm is not None:
            check_range("size_mm", self.size_mm, 0.5, 150.0, "mm")


@dataclass(frozen=True, slots=True)
class Sample:
    """A throat sample taken `age_h` [h] ago, 0 to 72."""

    items: tuple[SampleItem, ...]
    age_h: float = 0.0

    def __post_init__(self) -> None:
        if not 1 <= len(self.items) <= len(FOODS):
            raise BadInput("A sample holds at least one kind of food.", field="items")
        if len({item.food_key for item in self.items}) != len(self.items):
            raise BadInput("Name each food of a sample once.", field="items")
        check_range("age_h", self.age_h, 0.0, 72.0, "h")


@dataclass(frozen=True, slots=True)
class FoodChance:
    """A food, its probability, and the reasons for and against; size [mm] and colours as sampled, else as it usually is."""

    food: Food
    probability: float
    reasons: tuple[Phrase, ...]
    size_mm: tuple[float, float]
    colours: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class FoodPicture:
    """Every food with its probability, likeliest first, and the sign that is most worth looking for, if any is."""

    chances: tuple[FoodChance, ...]
    look_for: Sign | None

    def probability(self, key: str) -> float:
        return next(chance.probability for chance in self.chances if chance.food.key == key)


def season_share(food: Food, latitude_deg: float, on: date) -> float:
    """Return how much of its best a food is about at this date, `off_season` to 1, rising and falling over a month.

    Examples
    --------
    >>> damsel = FOODS["damsel-nymph"]
    >>> round(season_share(damsel, 54.0, date(2026, 6, 20)), 2), round(season_share(damsel, 54.0, date(2026, 1, 20)), 2)
    (1.0, 0.08)
    """
    first, last = food.months
    if (first, last) == (1, 12):
        return 1.0
    month = northern_day(latitude_deg, on) / 30.44
    length = (last - first) % 12 + 1
    into = (month - (first - 1)) % 12
    if into <= length:
        return 1.0
    gap = min(into - length, 12.0 - into)
    return max(food.off_season, 1.0 - gap * (1.0 - food.off_season))


def warmth_share(food: Food, water_c: float) -> float:
    """Return how much of its best a food is about in water of this temperature [C], 0.05 to 1."""
    if food.warmth_c is None:
        return 1.0
    begins, full = food.warmth_c
    return float(np.clip((water_c - begins) / (full - begins), 0.05, 1.0))


def hour_share(food: Food, hour: float, brightness: float) -> float:
    """Return how the time of day suits a food; `hour` 0 to 24 local, `brightness` 0 to 1 (common practice, ours in number)."""
    if food.key in {"caddis-adult", "caddis-pupa"}:
        return 1.0 if hour >= _EVENING_HOURS[0] else 0.35
    if food.layer == "film" and food.key != "terrestrial":
        return 1.0 if brightness < 0.25 else 0.6
    if food.key == "terrestrial":
        return 1.0 if 10.0 <= hour <= 18.0 else 0.3
    return 1.0


def rank_food(
    *,
    latitude_deg: float,
    on: date,
    hour: float,
    water_c: float,
    wind_speed_ms: float,
    brightness: float,
    signs: Sequence[str] = (),
    sample: Sample | None = None,
) -> FoodPicture:
    """Return every food with its probability and reasons.

    Foods are taken as rivals: trout feed on one of them now. Signs are taken as independent given the food.

    Parameters
    ----------
    latitude_deg : float
        South negative [deg].
    on : date
        Local date.
    hour : float
        Local clock, 0 to 24.
    water_c : float
        The warmest water [C]: what hatches, hatches there.
    wind_speed_ms : float
        [m/s]; it blows land insects on to the water.
    brightness : float
        0 to 1, as `surface_brightness`.
    signs : sequence of str
        Keys of `SIGNS` that were seen, each once; "nothing" stands alone.
    sample : Sample, optional

    Returns
    -------
    FoodPicture

    Raises
    ------
    BadInput
        A sign is not known or named twice, or "nothing" stands beside another.
    """
    seen = _checked(signs)
    prior = np.array([_prior(food, latitude_deg, on, hour, water_c, wind_speed_ms, brightness) for food in FOODS.values()])
    prior /= prior.sum()
    posterior = prior.copy()
    for sign in seen:
        posterior *= _likelihood(sign)
    weight = sample_weight(sample) if sample else 0.0
    if sample:
        posterior *= np.exp(weight * _sample_log_likelihood(sample))
    posterior /= posterior.sum()
    chances = [
        FoodChance(
            food, float(p), _reasons(food, float(p), latitude_deg, on, water_c, seen, sample, weight), *_looks(food, sample)
        )
        for food, p in zip(FOODS.values(), posterior, strict=True)
    ]
    order = tuple(sorted(chances, key=lambda chance: -chance.probability))
    return FoodPicture(order, _most_telling(posterior, seen))


def _looks(food: Food, sample: Sample | None) -> tuple[tuple[float, float], tuple[str, ...]]:
    """Return size range [mm] and colours: those of the sample come first."""
    found = next((item for item in sample.items if item.food_key == food.key), None) if sample else None
    size = (found.size_mm, found.size_mm) if found and found.size_mm is not None else food.size_mm
    colour = found.colour.strip().lower() if found else ""
    return size, (colour, *(c for c in food.colours if c != colour)) if colour else food.colours


def _checked(signs: Sequence[str]) -> list[Sign]:
    for key in signs:
        if key not in SIGNS:
            raise BadInput(f"sign {key!r} is not known. Known: {', '.join(SIGNS)}.", field="signs")
    if len(set(signs)) != len(signs):
        raise BadInput("Name each sign once.", field="signs")
    if "nothing" in signs and len(signs) > 1:
        raise BadInput("Nothing shows, or something does: not both.", field="signs")
    return [SIGNS[key] for key in signs]


def _prior(
    food: Food, latitude_deg: float, on: date, hour: float, water_c: float, wind_speed_ms: float, brightness: float
) -> float:
    share = food.usual * season_share(food, latitude_deg, on) * warmth_share(food, water_c) * hour_share(food, hour, brightness)
    if food.key == "terrestrial":
        share *= float(np.clip(wind_speed_ms / 4.0, 0.2, 1.5))
    return share


def _likelihood(sign: Sign) -> FloatArray:
    return np.array([sign.shows.get(key, sign.by_chance) for key in FOODS])


def sample_weight(sample: Sample) -> float:
    """Return how much a sample counts, 0 to 1: less when old, and when it holds tiny things of many kinds.

    Examples
    --------
    >>> fresh = Sample((SampleItem("midge-pupa", 12, 8.0),))
    >>> mixed = Sample((SampleItem("daphnia", 3, 2.0), SampleItem("midge-larva", 3, 3.0), SampleItem("shrimp", 2, 3.0)))
    >>> sample_weight(fresh), round(sample_weight(mixed), 2), round(sample_weight(Sample(fresh.items, age_h=6.0)), 2)
    (1.0, 0.3, 0.25)
    """
    fresh = math.pow(0.5, sample.age_h / float(SAMPLE_HALF_LIFE_H))
    total = sum(item.count for item in sample.items)
    leading = max(item.count for item in sample.items) / total
    sizes = [item.size_mm for item in sample.items if item.size_mm is not None]
    tiny = bool(sizes) and max(sizes) <= TINY_MM
    return fresh * (float(MIXED_WEIGHS) if leading < 0.5 and tiny else 1.0)


def _sample_log_likelihood(sample: Sample) -> FloatArray:
    total = sum(item.count for item in sample.items)
    scale = min(total, float(MOST_ITEMS)) / total
    other = (1.0 - float(SAMPLE_TELLS)) / (len(FOODS) - 1)
    logs = np.zeros(len(FOODS))
    for item in sample.items:
        tells = [float(SAMPLE_TELLS) if key == item.food_key else other for key in FOODS]
        logs += scale * item.count * np.log(np.array(tells))
    return np.asarray(logs - logs.max())


def _most_telling(posterior: FloatArray, seen: Sequence[Sign]) -> Sign | None:
    """Return the sign not yet seen whose look would, on average, leave least doubt; None when doubt is small already."""
    doubt = _entropy(posterior)
    if doubt < 0.5 or any(sign.key == "nothing" for sign in seen):
        return None
    best, gain = None, 0.05
    for sign in SIGNS.values():
        if sign in seen or sign.key == "nothing":
            continue
        shown = _likelihood(sign)
        chance = float(posterior @ shown)
        present, absent = posterior * shown / chance, posterior * (1.0 - shown) / (1.0 - chance)
        gained = doubt - chance * _entropy(present) - (1.0 - chance) * _entropy(absent)
        if gained > gain:
            best, gain = sign, gained
    return best


def _entropy(p: FloatArray) -> float:
    positive = p[p > 0.0]
    return float(-(positive * np.log(positive)).sum())


def _reasons(
    food: Food, probability: float, latitude_deg: float, on: date, water_c: float, seen: Sequence[Sign],
    sample: Sample | None, weight: float,
) -> tuple[Phrase, ...]:  # fmt: skip
    reasons: list[Phrase] = []
    if sample:
        found = next((item for item in sample.items if item.food_key == food.key), None)
        if found:
            old = " The sample is old or mixed and weighs little." if weight < 0.4 else ""
            reasons.append(Phrase(f"{found.count}{f' {found.colour}' if found.colour else ''} in the sample.{old}"))
    for sign in seen:
        shown = sign.shows.get(food.key, sign.by_chance)
        if shown > 2.0 * sign.by_chance:
            reasons.append(Phrase(f"{sign.name}." if sign.key == "nothing" else f"Seen: {sign.name.lower()}."))
    if season_share(food, latitude_deg, on) < 0.5:
        reasons.append(Phrase("Out of its season."))
    if food.warmth_c and water_c < food.warmth_c[0]:
        reasons.append(Phrase("Water of {water_c} is too cold for it yet.", {"water_c": water_c}))
    elif food.warmth_c and water_c >= food.warmth_c[1] and not reasons:
        reasons.append(Phrase("In season, and {water_c} is warm enough.", {"water_c": water_c}))
    return tuple(reasons)


def layer_share(food: Food, depth_m: FloatArray, light: FloatArray, brightness: float, weed_m: float = 0.0) -> FloatArray:
    """Return how likely the food is at each depth, as a density with sum 1.

    Parameters
    ----------
    food : Food
    depth_m : array, shape (n_depth,)
        Rising from 0 to the bottom [m].
    light : array, shape (n_depth,)
        Daylight at each depth, 0 to 1.
    brightness : float
        Daylight on the water, 0 to 1.
    weed_m : float
        How high weed stands [m].

    Returns
    -------
    array, shape (n_depth,)
    """
    bottom = float(depth_m[-1])
    above = bottom - depth_m
    if food.layer == "film":
        share = np.exp(-((depth_m / 0.25) ** 2))
    elif food.layer == "rising":
        # Most wait and start a little off the bottom; the rest are spread along the climb.
        share = np.exp(-(((above - min(0.45, 0.3 * bottom)) / 0.35) ** 2)) + 0.18
    elif food.layer == "bottom":
        share = np.exp(-(((above - weed_m * 0.5) / (0.35 + 0.5 * weed_m)) ** 2))
    elif food.layer == "weed":
        share = np.exp(-(((depth_m - 0.6) / 0.7) ** 2)) + 0.4 * np.exp(-(((above - weed_m) / 0.5) ** 2))
    elif food.layer == "margin":
        share = np.exp(-((depth_m / 0.9) ** 2))
    elif food.layer == "light":
        # Water fleas keep to a dim light: deep under a bright sun, near the top at dusk.
        share = np.exp(-((np.log((light + 1e-4) / 0.03) / 1.2) ** 2)) if brightness > 0.03 else np.exp(-((depth_m / 1.0) ** 2))
    else:
        share = np.exp(-(((depth_m - 0.8) / 1.2) ** 2))
    share = np.asarray(share) + 1e-6
    return np.asarray(share / share.sum())


def mean_layer(
    picture: FoodPicture, depth_m: FloatArray, light: FloatArray, brightness: float, weed_m: float = 0.0
) -> FloatArray:
    """Return where food is at each depth, each food weighted by its probability; density with sum 1, shape (n_depth,)."""
    return np.asarray(
        sum(chance.probability * layer_share(chance.food, depth_m, light, brightness, weed_m) for chance in picture.chances)
    )
