"""What one more thing known would be worth: by how much a deeper reading, or a sample, narrows the water to be searched."""

from __future__ import annotations

from dataclasses import dataclass, replace

from stillthread.depth.assumed import NODE_WEIGHTS, filled, less_m, searched_m
from stillthread.depth.picture import KNOWN_C, Conditions, WaterPicture, read_water
from stillthread.food.inference import Sample, SampleItem
from stillthread.water.reading import Reading

TENTH = 1.2816  # by definition: standard deviations from the middle to the tenth percentile of a normal spread
FOODS_TRIED = 5  # ours: rarer ones hardly weigh
SAMPLED = 5  # ours: what a spoon brings up


@dataclass(frozen=True, slots=True)
class Worths:
    """`searched_m` [m] of water hold 8 chances in 10; a reading at `reading_at_m` [m] (`None` where none is wanted) would
    make that less by `reading_m` on average, and a sample of what they eat by `sample_m`.
    """

    searched_m: float
    reading_at_m: float | None
    reading_m: float
    sample_m: float


def worths(conditions: Conditions) -> Worths:
    """Return what a deeper reading and a sample would be worth; raises as `read_water`."""
    known = replace(filled(conditions), assumed=())
    picture = read_water(known)
    now_m = _searched_m(picture)
    return Worths(now_m, picture.wanted_reading_m, _reading_worth_m(picture, now_m), _sample_worth_m(picture, now_m))


def _searched_m(picture: WaterPicture) -> float:
    return searched_m(picture.belief.depth_m, picture.belief.density_pm)


def _reading_worth_m(picture: WaterPicture, now_m: float) -> float:
    """Return the mean over what the reading may show."""
    at_m, profile = picture.wanted_reading_m, picture.profile
    if at_m is None:
        return 0.0
    i = int(abs(profile.depth_m - at_m).argmin())
    if profile.spread_c[i] <= KNOWN_C or any(abs(r.depth_m - at_m) < 0.05 for r in picture.conditions.readings):
        return 0.0
    doubt_c = TENTH * float(profile.spread_c[i])
    then_m = []
    for shown_c in (-doubt_c, 0.0, doubt_c):
        reading = Reading(at_m, max(float(profile.water_c[i]) + shown_c, 0.0), trusted=True)
        then_m.append(_searched_m(read_water(replace(picture.conditions, readings=(*picture.conditions.readings, reading)))))
    return less_m(now_m, then_m, NODE_WEIGHTS)


def _sample_worth_m(picture: WaterPicture, now_m: float) -> float:
    """Return the mean over the foods it may show, each as likely as it is; the rest is taken to tell nothing."""
    if picture.conditions.sample is not None:
        return 0.0
    likely = picture.foods.chances[:FOODS_TRIED]
    then_m = [
        _searched_m(read_water(replace(picture.conditions, sample=Sample((SampleItem(chance.food.key, SAMPLED),)))))
        for chance in likely
    ]
    rest = 1.0 - sum(chance.probability for chance in likely)
    return less_m(now_m, [*then_m, now_m], [*(chance.probability for chance in likely), max(rest, 0.0)])
