"""Which food trout are on: season and warmth first, then signs and a throat sample, by Bayes."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date

import numpy as np

from stillthread.errors import BadInput, FloatArray
from stillthread.food.catalogue import FOODS, Food, Layer, Stage
from stillthread.food.signs import SIGNS, Sign
from stillthread.phrase import Phrase
from stillthread.ranges import FOOD_SIZE_MM, SAMPLE_AGE_H, SAMPLE_COUNT
from stillthread.sourced import Sourced
from stillthread.water.seasonal import northern_day

SAMPLE_ODDS = Sourced(
    60.0, "1", "ours", "one item of a throat sample: how much likelier the fish was on that food than on any one other"
)
SAMPLE_HALF_LIFE_H = Sourced(3.0, "h", "common-practice", "a sample older than a few hours weighs less; the number is ours")
MOST_ITEMS = Sourced(8.0, "1", "ours", "items of one stomach do not err apart: more than this add nothing")
MIXED_WEIGHS = Sourced(0.3, "1", "common-practice", "tiny mixed items mean keyed on nothing; the number is ours")
MIXED_TELLS = Sourced(10.0, "1", "ours", "how much likelier such a sample is from a trout that is keyed on nothing")
DEEP_FLEAS_M = Sourced(7.0, "m", "common-practice", "clouds of fleas hang over deep water: less over less; the number is ours")
TINY_MM = 4.0  # common practice
FEW_ITEMS = 3  # ours: fewer of the commonest kind than this say nothing of what they are keyed on
_EVENING_HOURS = (18.0, 24.0)  # common practice
# Common practice has the hours, the shares outside them are ours.
BEFORE_EVENING = 0.35  # caddis
FILM_LIGHT, FILM_BY_DAY = 0.25, 0.6  # ours: what is in the film shows best in a light below the first
LAND_HOURS, LAND_ELSE = (10.0, 18.0), 0.3  # ours: what the wind blows in from land
BLOWN_MPS, BLOWN_SHARES = 4.0, (0.2, 1.5)  # common practice: land insects need wind; as usual in the first
LEAST_WARMTH = 0.05  # ours: of a food out of its warmth
LEAST_DOUBT, LEAST_GAIN = 0.5, 0.05  # ours [nat]: with less to win no sign is asked for
WEIGHS_LITTLE = 0.4  # ours: a sample's weight below which that is said
DAYS_A_MONTH = 30.44  # by definition


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
        SAMPLE_COUNT.check("count", self.count)
        if self.size_mm is not None:
            FOOD_SIZE_MM.check("size_mm", self.size_mm)


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
        SAMPLE_AGE_H.check("age_h", self.age_h)


@dataclass(kw_only=True, frozen=True, slots=True)
class FoodChance:
    """A food, its probability, and the reasons for and against.

    Size [mm], hooks and colours are as sampled, else those of the season's stage, else as usual; so are pace [m/s] and how far
    a trout moves for it, `reach_m` [m], `None` for as far as it sees. `top_m` [m] is how thick a layer at the top holds it,
    where its stage lives there; `layer` where it is.
    """

    food: Food
    probability: float
    reasons: tuple[Phrase, ...]
    size_mm: tuple[float, float]
    colours: tuple[str, ...]
    hooks: tuple[int, int]
    speed_mps: tuple[float, float]
    reach_m: float | None
    top_m: float | None = None
    layer: Layer = "bottom"


@dataclass(frozen=True, slots=True)
class FoodPicture:
    """Every food with its probability, likeliest first, and the sign that is most worth looking for, if any is."""

    chances: tuple[FoodChance, ...]
    look_for: Sign | None

    def probability(self, key: str) -> float:
        return next(chance.probability for chance in self.chances if chance.food.key == key)

    def weighed(self, shares: Mapping[str, float]) -> FoodPicture:
        """Return the picture with each food's probability times its share, by key; likeliest first again."""
        total = sum(chance.probability * shares[chance.food.key] for chance in self.chances)
        chances = [replace(c, probability=c.probability * shares[c.food.key] / total) for c in self.chances]
        return replace(self, chances=tuple(sorted(chances, key=lambda chance: -chance.probability)))


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
    month = northern_day(latitude_deg, on) / DAYS_A_MONTH
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
    return float(np.clip((water_c - begins) / (full - begins), LEAST_WARMTH, 1.0))


def hour_share(food: Food, hour: float, brightness: float) -> float:
    """Return how the time of day suits a food; `hour` 0 to 24 local, `brightness` 0 to 1 (common practice, ours in number)."""
    if food.key in {"caddis-adult", "caddis-pupa"}:
        return 1.0 if hour >= _EVENING_HOURS[0] else BEFORE_EVENING
    if food.layer == "film" and food.key != "terrestrial":
        return 1.0 if brightness < FILM_LIGHT else FILM_BY_DAY
    if food.key == "terrestrial":
        return 1.0 if LAND_HOURS[0] <= hour <= LAND_HOURS[1] else LAND_ELSE
    return 1.0


def rank_food(
    *,
    latitude_deg: float,
    on: date,
    hour: float,
    water_c: float,
    wind_speed_mps: float,
    brightness: float,
    signs: Sequence[str] = (),
    sample: Sample | None = None,
    bottom_m: float | None = None,
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
    wind_speed_mps : float
        [m/s]; it blows land insects on to the water.
    brightness : float
        0 to 1, as `surface_brightness`.
    signs : sequence of str
        Keys of `SIGNS` that were seen, each once; "nothing" stands alone.
    sample : Sample, optional
    bottom_m : float, optional
        Depth of the bottom [m]: water fleas keep to deep water.

    Returns
    -------
    FoodPicture

    Raises
    ------
    BadInput
        A sign is not known or named twice, or "nothing" stands beside another.
    """
    seen = _checked(signs)
    prior = np.array([_prior(food, latitude_deg, on, hour, water_c, wind_speed_mps, brightness) for food in FOODS.values()])
    if bottom_m is not None and "flea-clouds" not in signs:
        prior[list(FOODS).index("daphnia")] *= min(bottom_m / float(DEEP_FLEAS_M), 1.0)
    prior /= prior.sum()
    posterior = prior.copy()
    for sign in seen:
        posterior *= _likelihood(sign)
    weight = sample_weight(sample) if sample else 0.0
    if sample:
        posterior *= np.exp(weight * _sample_log_likelihood(sample))
    posterior /= posterior.sum()
    chances = [
        _chance(food, float(p), _reasons(food, latitude_deg, on, water_c, seen, sample, weight), latitude_deg, on, sample)
        for food, p in zip(FOODS.values(), posterior, strict=True)
    ]
    order = tuple(sorted(chances, key=lambda chance: -chance.probability))
    return FoodPicture(order, _most_telling(posterior, seen))


def _chance(
    food: Food, probability: float, reasons: tuple[Phrase, ...], latitude_deg: float, on: date, sample: Sample | None
) -> FoodChance:
    """Return a food as it is at this date, and as the sample shows it: what was measured and seen comes first."""
    stage = stage_of(food, latitude_deg, on)
    size, hooks, speed = (stage or food).size_mm, (stage or food).hooks, (stage or food).speed_mps
    found = next((item for item in sample.items if item.food_key == food.key), None) if sample else None
    if found and found.size_mm is not None:
        size, hooks = (found.size_mm, found.size_mm), hooks_for(food, found.size_mm)
    colour = found.colour.strip().lower() if found else ""
    colours = (colour, *(c for c in food.colours if c != colour)) if colour else food.colours
    reach, top = (stage.reach_m, stage.top_m) if stage else (food.reach_m, None)
    layer = (stage.layer if stage else None) or food.layer
    return FoodChance(
        food=food,
        probability=probability,
        reasons=reasons,
        size_mm=size,
        colours=colours,
        hooks=hooks,
        speed_mps=speed,
        reach_m=reach,
        top_m=top,
        layer=layer,
    )


def stage_of(food: Food, latitude_deg: float, on: date) -> Stage | None:
    """Return what a food is at this date, where that differs from the rest of the year."""
    month = int(northern_day(latitude_deg, on) / DAYS_A_MONTH) % 12 + 1
    return next((stage for stage in food.stages if stage.months[0] <= month <= stage.months[1]), None)


def hooks_for(food: Food, size_mm: float) -> tuple[int, int]:
    """Return the hook numbers for a food of this size [mm], from the food's own sizes and hooks; to 24 for the tiniest.

    Examples
    --------
    >>> hooks_for(FOODS["midge-pupa"], 11.0), hooks_for(FOODS["midge-larva"], 18.0)
    ((12, 14), (10, 12))
    """
    (least, most), (largest, smallest) = food.size_mm, food.hooks
    number = largest + (most - size_mm) * (smallest - largest) / max(most - least, 1e-6)
    even = 2 * math.floor(min(max(number, 2.0), 24.0) / 2.0)
    return even, min(even + 2, 24)


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
    food: Food, latitude_deg: float, on: date, hour: float, water_c: float, wind_speed_mps: float, brightness: float
) -> float:
    share = food.usual * season_share(food, latitude_deg, on) * warmth_share(food, water_c) * hour_share(food, hour, brightness)
    if food.key == "terrestrial":
        share *= float(np.clip(wind_speed_mps / BLOWN_MPS, *BLOWN_SHARES))
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
    return fresh * (float(MIXED_WEIGHS) if keyed_on_nothing(sample) else 1.0)


def keyed_on_nothing(sample: Sample) -> bool:
    """Return whether a sample says that the fish takes what comes: no kind leads, and all is tiny, or there are only a few.

    Examples
    --------
    >>> keyed_on_nothing(Sample((SampleItem("midge-pupa", 1), SampleItem("shrimp", 1, 3.0))))
    True
    """
    most = max(item.count for item in sample.items)
    leading = most / sum(item.count for item in sample.items)
    sizes = [item.size_mm for item in sample.items if item.size_mm is not None]
    tiny = bool(sizes) and max(sizes) <= TINY_MM
    return len(sample.items) > 1 and leading <= 0.5 and (tiny or most < FEW_ITEMS)


def _sample_log_likelihood(sample: Sample) -> FloatArray:
    total = sum(item.count for item in sample.items)
    scale = min(total, float(MOST_ITEMS)) / total
    logs = np.zeros(len(FOODS))
    if keyed_on_nothing(sample):
        # `sample_weight` makes little of what such a sample holds; that it is so is told in full.
        logs[list(FOODS).index("attractor")] += math.log(float(MIXED_TELLS)) / float(MIXED_WEIGHS)
    for item in sample.items:
        logs[list(FOODS).index(item.food_key)] += scale * item.count * math.log(float(SAMPLE_ODDS))
    return np.asarray(logs - logs.max())


def _most_telling(posterior: FloatArray, seen: Sequence[Sign]) -> Sign | None:
    """Return the sign not yet seen whose look would, on average, leave least doubt; None when doubt is small already."""
    doubt = _entropy(posterior)
    if doubt < LEAST_DOUBT or any(sign.key == "nothing" for sign in seen):
        return None
    best, gain = None, LEAST_GAIN
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
    food: Food, latitude_deg: float, on: date, water_c: float, seen: Sequence[Sign], sample: Sample | None, weight: float,
) -> tuple[Phrase, ...]:  # fmt: skip
    reasons: list[Phrase] = []
    if sample:
        if food.key == "attractor" and keyed_on_nothing(sample):
            reasons.append(Phrase("A few small things of several kinds in the sample: keyed on nothing."))
        found = next((item for item in sample.items if item.food_key == food.key), None)
        if found:
            old = " The sample is old or mixed and weighs little." if weight < WEIGHS_LITTLE else ""
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
