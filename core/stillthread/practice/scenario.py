"""A practice day is dealt: a water, its weather and what is hidden in it, all from a seed, the same on every machine."""

from __future__ import annotations

import random
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta, timezone
from functools import lru_cache

from stillthread.depth.assumed import BOTTOM, CLARITY, Usual, assume, filled
from stillthread.depth.picture import Conditions, WaterPicture, read_water
from stillthread.errors import BadInput
from stillthread.food.signs import SIGNS
from stillthread.practice.scenario_levels import (
    DEEPEST_MADE_UP_M,
    LETTERS,
    LEVELS,
    SEED_LENGTH,
    Likely,
    new_seed,
    truth_again,
    truth_of,
)
from stillthread.practice.truth import BEGINS_H, Hidden, Truth, seeded
from stillthread.ranges import BOTTOM_DEPTH_M, SECCHI_M
from stillthread.water.comfort import SPECIES, species_named
from stillthread.water.reading import Reading
from stillthread.water.seasonal import Lake, usual_surface_c
from stillthread.weather.sun import Place
from stillthread.weather.wind import Wind

USUAL = Usual(3.0, 5.0)  # ours: of a water that nobody told of


_WATERS = ("a hill lake of peat and boulders", "a lowland reservoir with a dam", "a gravel lake among willows",
           "a long loch under moors", "a tarn with a weedy arm")  # fmt: skip


@dataclass(kw_only=True, frozen=True, slots=True)
class Own:
    """A water of the angler's own, as it was when the day was dealt; `bottom_m` and `secchi_m` as they usually are there."""

    name: str
    latitude_deg: float
    longitude_deg: float
    altitude_m: float
    fetch_km: float
    bottom_m: float
    secchi_m: float
    species: str

    @property
    def lake(self) -> Lake:
        return Lake(self.latitude_deg, self.altitude_m, self.fetch_km)


@dataclass(kw_only=True, frozen=True, slots=True)
class Scenario:
    """A day: the `conditions` as they truly are when it begins, how the weather `turns` (minutes, wind, cloud), what a look
    would find, and the `truth`, told to nobody before the end, with where it was `likely`."""

    seed: str
    level: str
    water: str
    conditions: Conditions
    signs: tuple[str, ...]
    truth: Truth
    likely: Likely
    turns: tuple[tuple[float, Wind, float], ...] = ()
    usual: Usual = USUAL

    @property
    def hidden(self) -> Hidden:
        return Hidden(self.seed, self.level, self.truth)

    def weather(self, at_min: float) -> tuple[Wind, float]:
        """Return wind and cloud so many minutes into the day."""
        now = (self.conditions.wind, self.conditions.cloud_fraction)
        for from_min, wind, cloud in self.turns:
            if at_min >= from_min:
                now = (wind, cloud)
        return now


def seed_of_week(on: date) -> str:
    """Return the seed of the week that a day lies in: the same for everybody."""
    year, week, _ = on.isocalendar()
    return new_seed(seeded(f"week {year} {week}"))


def check_seed(seed: str) -> str:
    """Return a seed as it is kept, or raise `BadInput`."""
    plain = seed.strip().upper()
    if len(plain) != SEED_LENGTH or any(letter not in LETTERS for letter in plain):
        raise BadInput(f"A day's code has {SEED_LENGTH} letters and digits, without vowels, 0 and 1.", field="seed")
    return plain


@lru_cache(maxsize=64)
def scenario_of(seed: str, level: str, own: Own | None = None) -> Scenario:
    """Return the day of a seed at a level, "easy", "fair" or "hard", on a water made up or one's own.

    Raises
    ------
    BadInput
        The seed is none, or the level is not known.
    """
    seed = check_seed(seed)
    draw = seeded(f"{seed} {_check_level(level)}")
    northern = date(2026, 3, 25) + timedelta(days=draw.randrange(215))
    latitude, altitude = round(draw.uniform(48.0, 62.0), 1), round(draw.uniform(40.0, 500.0))
    lake = Lake(latitude, float(altitude), round(draw.uniform(0.4, 3.0), 1))
    bottom = round(draw.uniform(3.0, DEEPEST_MADE_UP_M), 1)
    summer = 1.0 - abs((northern - date(2026, 7, 20)).days) / 120.0
    warmer = draw.uniform(-1.5, 1.5)
    usual_top, secchi, day, place, usual = 6.0 + 12.0 * summer, draw.uniform(1.5, 6.0), northern, Place(latitude, 0.0), USUAL
    species, zone = SPECIES["rainbow"], timezone(timedelta(hours=1))
    if own is not None:
        lake, place, species = own.lake, Place(own.latitude_deg, own.longitude_deg), species_named(own.species)
        # South of the line the season is the other half of the year.
        day = northern if own.latitude_deg >= 0.0 else northern + timedelta(days=182)
        bottom = round(min(max(own.bottom_m * (0.8 + 0.4 * (bottom - 3.0) / 6.0), 1.0), BOTTOM_DEPTH_M.high), 1)
        secchi = min(max(own.secchi_m * (0.75 + 0.5 * (secchi - 1.5) / 4.5), SECCHI_M.low), SECCHI_M.high)
        usual_top = usual_surface_c(lake, day)
        usual = Usual(own.secchi_m, own.bottom_m)
        zone = timezone(timedelta(hours=round(own.longitude_deg / 15.0)))
    top = round(min(max(usual_top + warmer, 5.0), 20.0), 1)
    mixed, deep = draw.uniform(2.0, 6.0), max(min(top - 1.0, 7.0 + 2.0 * summer), 4.5)
    fall = draw.uniform(1.0, 3.0)
    readings = tuple(
        Reading(float(z), round(top if z <= mixed else max(top - (top - deep) * min((z - mixed) / fall, 1.0), deep), 1))
        for z in range(int(bottom) + 1)
    )
    at = datetime(day.year, day.month, day.day, BEGINS_H, 0, tzinfo=zone)
    conditions = Conditions(
        place=place,
        lake=lake,
        at=at,
        readings=readings,
        wind=Wind(round(draw.uniform(0.0, 7.0), 1), float(draw.randrange(0, 360, 15))),
        cloud_fraction=round(draw.random(), 1),
        secchi_m=round(secchi, 1),
        bottom_depth_m=bottom,
        species=species,
    )
    picture = read_water(conditions)
    likely = likely_of(picture)
    truth = truth_of(likely, draw.choice(LEVELS[level].kinds), LEVELS[level], draw)
    invented, signs = draw.choice(_WATERS), _signs(picture, draw)
    turns, wind = [], conditions.wind
    for from_min in (80.0, 160.0):
        speed = min(max(wind.speed_mps + draw.gauss(0.0, 1.5), 0.0), 8.0)
        wind = Wind(round(speed, 1), float((wind.from_deg + draw.choice((-30, -15, 0, 15, 30))) % 360))
        turns.append((from_min + draw.uniform(-15.0, 15.0), wind, round(draw.random(), 1)))
    return Scenario(
        seed=seed,
        level=level,
        water=own.name if own else invented,
        conditions=conditions,
        signs=signs,
        truth=truth,
        likely=likely,
        turns=tuple(turns),
        usual=usual,
    )


def likely_of(picture: WaterPicture) -> Likely:
    """Return where a full reading of the water leads one to expect them."""
    belief = picture.belief
    return Likely(tuple(map(float, belief.depth_m)), tuple(map(float, belief.mass())), float(picture.conditions.bottom_depth_m))


def another_day(scenario: Scenario, seed: str, level: str) -> Scenario:
    """Return another day on the same water, in the same conditions: only the fish are elsewhere.

    Raises
    ------
    BadInput
        The seed is none, or the level is not known.
    """
    seed = check_seed(seed)
    return replace(scenario, seed=seed, level=_check_level(level), truth=truth_again(scenario.likely, seed, level))


def _check_level(level: str) -> str:
    if level not in LEVELS:
        raise BadInput(f"level {level!r} is not known. Known: {', '.join(LEVELS)}.", field="level")
    return level


def _signs(picture: WaterPicture, draw: random.Random) -> tuple[str, ...]:
    """Draw what a look finds, by what they likely feed on."""
    food = picture.foods.chances[0].food.key if picture.foods.chances else ""
    shown = [key for key, sign in SIGNS.items() if key != "nothing" and draw.random() < 0.8 * sign.shows.get(food, 0.0)]
    return tuple(shown[:2]) or ("nothing",)


def read_so_far(scenario: Scenario, made: frozenset[str], at_min: float) -> Conditions:
    """Return the conditions as they have been read: the hand knows the top and eyes the sky and the wind; the rest costs time.

    `made` are the keys of `practice.truth.READING_MIN` that were made.
    """
    true = scenario.conditions
    wind, cloud = scenario.weather(at_min)
    unread = [name for name, reading in ((CLARITY, "clarity"), (BOTTOM, "sounding")) if reading not in made]
    known = replace(
        true,
        at=true.at + timedelta(minutes=at_min),
        wind=wind,
        cloud_fraction=cloud,
        readings=true.readings if "lowering" in made else true.readings[:1],
        signs=scenario.signs if "look" in made else (),
        assumed=assume(unread, true.lake, true.at.date(), scenario.usual, true.readings[:1]),
    )
    return filled(known)
