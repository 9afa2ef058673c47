"""Where to start: the marks of a lake in order for the present conditions, with the reasons."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from stillthread.chart.marks import MARK_KINDS, Mark
from stillthread.chart.outline import Outline
from stillthread.chart.soundings import DepthGrid
from stillthread.chart.standing import ShoreExposure, depth_at, exposure_at
from stillthread.depth.picture import Conditions, WaterPicture, check_open_water, read_water
from stillthread.errors import BadInput
from stillthread.phrase import Phrase
from stillthread.sourced import Sourced
from stillthread.water.seasonal import northern_day
from stillthread.weather.effects import compass_word

MOST_MARKS = 200  # ours: a bound
EARLY_C = Sourced(9.0, "C", "common-practice", "below this in spring trout feed along the warming edge; the number is ours")
SPRING_DAYS = (46.0, 166.0)  # ours: from the middle of February to the middle of June the water gains on the day
EDGE_M = (1.8, 4.5)  # common practice: 6 to 14 ft of water early in the year
WAVE_LIMIT_M = Sourced(0.45, "m", "ours", "waves in which a small boat or a wading angler fishes badly")
BLOWN_GAIN = 0.9  # common practice: food gathers where the wind blows, upwings hatch in peace; the number is ours
ALWAYS_BLOWN = 0.15  # ours: something is always blown in
LIGHT_COUNTS_C = (4.0, 12.0)  # common practice: early in the year they are not shy; from the first to the second light counts
LEAST_SHY = 0.3  # ours
SMOOTHED = 11  # ours: depths of the grid over which the best water is looked for
NEAR_BOTTOM_M, SHALLOW_M, NEAR_TOP_M = 1.0, 1.5, 0.6  # ours: how the best water's place is said
FOOD_GAIN, LEAST_FOOD_GAIN = 1.5, 0.03  # ours: what a place that holds the likely food gains, and the least that is said
ROUGH_SHARE = 0.3  # ours: what waves over the limit leave
WIND_MPS, MOST_WIND = 5.0, 1.2  # ours: a wind that blows food in well, and the most of it that counts
ONTO, LEAST_WIND = 0.4, 0.4  # ours: how squarely it blows on or off to be said, and what shelter leaves at least
HATCH_SAID = 0.1  # ours: duns this likely are spoken of
EDGE_GAIN, TOO_SHALLOW_M, TOO_SHALLOW = 1.35, 1.2, 0.7  # ours: early in the year
SURFACE_LAYERS = frozenset({"film", "upper", "margin"})


@dataclass(frozen=True, slots=True)
class Start:
    """A mark with its `score`, 1 for the best of the lake; `depth_m` `None` where neither chart nor angler knows it."""

    mark: Mark
    score: float
    depth_m: float | None
    exposure: ShoreExposure | None
    reasons: tuple[Phrase, ...]


def where_to_start(
    conditions: Conditions, marks: Sequence[Mark], outline: Outline | None = None, grid: DepthGrid | None = None
) -> list[Start]:
    """Return the marks to fish, best first.

    A mark is as good as the best layer of water over its bottom is fit for trout, as much of the likely food as its kind of
    place holds, and as much as the wind brings there. The weights are ours, what they follow is common practice. It is blind
    to fishing pressure and to where fish were stocked.

    Raises
    ------
    OnIce
        Ice covers the water.
    BadInput
        More than `MOST_MARKS`.
    """
    if len(marks) > MOST_MARKS:
        raise BadInput(f"{len(marks)} marks are more than {MOST_MARKS}.", field="marks")
    pictures: dict[float, WaterPicture] = {}
    found = []
    for mark in marks:
        if mark.kind_key == "launch":
            continue
        xy = outline.in_water(outline.plane.to_xy([mark.longitude_deg, mark.latitude_deg])[0]) if outline else None
        depth_m = mark.depth_m if mark.depth_m is not None or xy is None else depth_at(grid, xy)
        bottom_m = round(min(max(conditions.bottom_depth_m if depth_m is None else depth_m, 0.5), 100.0), 1)
        if bottom_m not in pictures:
            pictures[bottom_m] = read_water(replace(conditions, bottom_depth_m=bottom_m, far_bottom_depth_m=None))
            check_open_water(pictures[bottom_m])
        exposure = exposure_at(outline, xy, conditions.wind) if outline is not None and xy is not None else None
        found.append(_judge(mark, depth_m, bottom_m, exposure, pictures[bottom_m]))
    best = max((start.score for start in found), default=1.0) or 1.0
    ordered = sorted(found, key=lambda start: (-start.score, start.mark.name))
    return [replace(start, score=start.score / best) for start in ordered]


def _judge(mark: Mark, depth_m: float | None, bottom_m: float, exposure: ShoreExposure | None, picture: WaterPicture) -> Start:
    water, water_why = _water(picture, bottom_m)
    food, food_why = _food(mark, picture)
    wind, wind_why = _wind(exposure, picture)
    season, season_why = _season(picture, bottom_m)
    reasons = [why for why in (water_why, food_why, wind_why, season_why) if why is not None]
    if depth_m is None:
        reasons.append(Phrase("Its depth is not known: taken as {bottom_m}.", {"bottom_m": bottom_m}))
    return Start(mark, water * food * wind * season, depth_m, exposure, tuple(reasons))


def _water(picture: WaterPicture, bottom_m: float) -> tuple[float, Phrase]:
    """Return how fit the best metre of water is, from temperature, oxygen and light."""
    shares = {factor.key: factor.share for factor in picture.belief.factors}
    cold_c, mild_c = LIGHT_COUNTS_C
    shyness = float(np.clip((float(picture.profile.water_c[0]) - cold_c) / (mild_c - cold_c), LEAST_SHY, 1.0))
    fit = shares["temperature"] * shares["oxygen"] * shares["light"] ** shyness
    smooth = np.convolve(np.pad(fit, SMOOTHED // 2, mode="edge"), np.full(SMOOTHED, 1.0 / SMOOTHED), mode="valid")
    at = int(np.argmax(smooth))
    depth_m = float(picture.profile.depth_m[at])
    values = {"best_m": depth_m, "best_c": float(picture.profile.water_c[at]), "bottom_m": bottom_m}
    if bottom_m - depth_m < NEAR_BOTTOM_M and bottom_m > SHALLOW_M:
        text = "The best water, {best_c}, lies on the bottom here, {bottom_m} down."
    elif depth_m < NEAR_TOP_M:
        text = "Over {bottom_m} the best water is the top, {best_c}."
    else:
        text = "Over {bottom_m} the best water lies at {best_m}, {best_c}."
    return float(smooth[at]), Phrase(text, values)


def _food(mark: Mark, picture: WaterPicture) -> tuple[float, Phrase | None]:
    held = MARK_KINDS[mark.kind_key].foods
    gain = {c.food.key: c.probability * (held.get(c.food.key, 1.0) - 1.0) for c in picture.foods.chances}
    best = max(gain, key=lambda key: gain[key])
    total = 1.0 + FOOD_GAIN * sum(gain.values())
    if gain[best] < LEAST_FOOD_GAIN:
        return total, None
    chance = next(c for c in picture.foods.chances if c.food.key == best)
    text = f"{MARK_KINDS[mark.kind_key].name}: a place for {chance.food.name.lower()} ({{chance_pct}} likely)."
    return total, Phrase(text, {"chance_pct": 100.0 * chance.probability})


def _wind(exposure: ShoreExposure | None, picture: WaterPicture) -> tuple[float, Phrase | None]:
    wind = picture.conditions.wind
    if exposure is None or wind.speed_mps < 1.0:
        return 1.0, None
    rough = ROUGH_SHARE if exposure.waves.high_m > float(WAVE_LIMIT_M) else 1.0
    if rough < 1.0:
        return rough, Phrase(
            "Waves to {high_cm}: hard to fish, and care in a boat.", {"high_cm": 100.0 * exposure.waves.high_m}
        )
    if exposure.onto is None:
        return 1.0, None
    duns = picture.foods.probability("mayfly-dun")
    hatching = duns + picture.foods.probability("mayfly-nymph")
    blown = sum(c.probability for c in picture.foods.chances if c.food.layer in SURFACE_LAYERS) - duns
    gain = 1.0 + min(wind.speed_mps / WIND_MPS, MOST_WIND) * exposure.onto * (BLOWN_GAIN * (blown - hatching) + ALWAYS_BLOWN)
    if exposure.onto > ONTO:
        text = f"The {compass_word(wind.from_deg)} wind blows onto it over {{fetch_m}} of water and brings food."
        return max(gain, LEAST_WIND), Phrase(text, {"fetch_m": exposure.fetch_m})
    if exposure.onto < -ONTO:
        text = "Sheltered: duns hatch in peace here." if duns > HATCH_SAID else "Sheltered: the wind blows food away from it."
        return max(gain, LEAST_WIND), Phrase(text)
    return max(gain, LEAST_WIND), None


def _season(picture: WaterPicture, bottom_m: float) -> tuple[float, Phrase | None]:
    surface_c = float(picture.profile.water_c[0])
    given = picture.conditions
    day = northern_day(given.place.latitude_deg, given.at.date())
    if surface_c >= float(EARLY_C) or not SPRING_DAYS[0] <= day <= SPRING_DAYS[1]:
        return 1.0, None
    if EDGE_M[0] <= bottom_m <= EDGE_M[1]:
        text = "Cold water, {surface_c}: the edge warms first and is fed in first."
        return EDGE_GAIN, Phrase(text, {"surface_c": surface_c})
    return (TOO_SHALLOW, Phrase("Too shallow to hold food so early.")) if bottom_m < TOO_SHALLOW_M else (1.0, None)
