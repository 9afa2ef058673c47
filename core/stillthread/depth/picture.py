"""Read the water: from what an angler gives to profile, layers, comfort, light and the belief, in one step."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

import numpy as np

from stillthread.depth.activity import activity_share
from stillthread.depth.assumed import SURFACE, Assumption, Unread, averaged_over
from stillthread.depth.belief import Belief, form_belief, leaned
from stillthread.depth.factors import (
    COMFORTABLE_SHARE,
    light_factor,
    oxygen_factor,
    season_factor,
    temperature_factor,
)
from stillthread.errors import BadInput, FloatArray, OnIce
from stillthread.food.inference import FoodPicture, Sample, rank_food
from stillthread.food.layers import Column
from stillthread.food.signs import SIGNS
from stillthread.judgement import JUDGEMENT, Judgement
from stillthread.learn.leaning import Lean
from stillthread.phrase import Phrase
from stillthread.ranges import BOTTOM_DEPTH_M, SECCHI_M, SHARE, WEED_M
from stillthread.rules.cautions import Caution, cautions_for, reminders_for
from stillthread.water.comfort import Species, depth_bands, feeding_share
from stillthread.water.expected import ExpectedColumn
from stillthread.water.hypsography import Hypsography
from stillthread.water.light import light_fraction, surface_brightness
from stillthread.water.oxygen import (
    LIVABLE_MGL,
    OxygenProfile,
    OxygenReading,
    oxygen_profile,
    oxygen_saturation_mgl,
    oxygen_share,
)
from stillthread.water.profile import THERMOMETER_C, Profile, build_profile
from stillthread.water.reading import Lowering, Reading
from stillthread.water.seasonal import Lake, northern_day, season_days, season_progress
from stillthread.water.stratification import Layers, find_layers
from stillthread.weather.sun import Place, sun_azimuth_deg, sun_elevation_deg
from stillthread.weather.wind import Wind

FARTHEST_PLAN = timedelta(days=14)  # ours: as far as a forecast is worth anything
KNOWN_C = 0.5  # ours: a temperature is known where its spread is no more than this
GUESS_SPREAD_C = 3.0  # ours: a temperature known no better than this is a plain guess
# by definition: densest water: a lake that is colder at the top can carry ice, and one that is not cannot for long
MAY_BE_ICED_C = 4.0
FREEZING_C = 0.3  # ours: a hand thermometer reads water under ice at no more
# ours
ACTIVITY_WORDS = (
    (0.8, "They feed freely"),
    (0.45, "They feed"),
    (0.15, "They feed half-heartedly"),
    (0.0, "They hardly feed"),
)
GUESSED_LAYERS = 2.0  # ours: a guess shows layers only where the fall it guesses is this many times its doubt
TENTH_TO_TENTH = 2.563  # by definition: standard deviations from the tenth to the ninetieth percentile of a normal spread
LEAST_DOUBT_C = 0.25  # ours: doubt times belief, taken over the depth, below which no reading is asked for


@dataclass(kw_only=True, frozen=True, slots=True)
class Conditions:
    """What was read at one place and time.

    `at` carries its time zone; `readings` hold one temperature at the surface or more down the column; `cloud_fraction`
    0 to 1; `secchi_m` 0.2 to 20; `bottom_depth_m` 0.3 to 100, where the angler stands or is anchored;
    `far_bottom_depth_m`, if it differs, under the end of the cast; `weed_m` 0 to 20, how high weed stands;
    `signs` are keys of food signs that were seen, `sample` a throat sample; `oxygen` as far as it was read; `earlier`
    lowerings of the same day, shown only; `ice` when ice covers the place. `assumed` are those that nobody read: whatever
    stands in their place above is not looked at. `lean` is what the angler's own log says of days like this one,
    `hypsography` the shape of the lake, where a chart knows it; `expected` the column that the lake's weather has made.
    """

    place: Place
    lake: Lake
    at: datetime
    readings: Sequence[Reading]
    wind: Wind
    cloud_fraction: float
    secchi_m: float
    bottom_depth_m: float
    species: Species
    far_bottom_depth_m: float | None = None
    weed_m: float = 0.0
    signs: tuple[str, ...] = ()
    sample: Sample | None = None
    oxygen: Sequence[OxygenReading] = ()
    earlier: Sequence[Lowering] = ()
    ice: bool = False
    assumed: tuple[Assumption, ...] = ()
    lean: Lean | None = None
    hypsography: Hypsography | None = None
    expected: ExpectedColumn | None = None

    def __post_init__(self) -> None:
        SHARE.check("cloud_fraction", self.cloud_fraction)
        SECCHI_M.check("secchi_m", self.secchi_m)
        if self.far_bottom_depth_m is not None:
            BOTTOM_DEPTH_M.check("far_bottom_depth_m", self.far_bottom_depth_m)
        WEED_M.check("weed_m", self.weed_m)

    @property
    def deepest_m(self) -> float:
        """Depth [m] of the deeper end of the cast."""
        return max(self.bottom_depth_m, self.far_bottom_depth_m or 0.0)


@dataclass(kw_only=True, frozen=True, slots=True)
class WaterPicture:
    """What the conditions amount to.

    `comfort_bands` are (top, bottom) depths [m] that suit the species in temperature and oxygen, `livable_bands` those it
    can stay in without stress, several where oxygen has a gap; `light` (n_depth,) is the daylight at each depth of
    the profile's grid, 0 to 1; `oxygen_saturation_mgl` is a ceiling at the surface, not a measurement;
    `measured_share` is how much of the belief lies where temperature was read, 0 to 1: the rest is guess.
    `wanted_reading_m` is the depth [m] at which one more reading would settle most, `None` when little is left.
    `activity` (n_depth,) is how much trout feed at each depth, as a share of their most: where they are is the belief's to
    say. `judgement` are the numbers behind all of it. `unread` are the assumptions, each with what reading it is worth.
    """

    conditions: Conditions
    profile: Profile
    layers: Layers
    oxygen: OxygenProfile
    comfort_bands: tuple[tuple[float, float], ...]
    livable_bands: tuple[tuple[float, float], ...]
    sun_elevation_deg: float
    brightness: float
    light: FloatArray
    oxygen_saturation_mgl: float
    belief: Belief
    measured_share: float
    wanted_reading_m: float | None
    cautions: tuple[Caution, ...]
    foods: FoodPicture
    trend: Phrase | None
    activity: FloatArray
    judgement: Judgement = JUDGEMENT
    unread: tuple[Unread, ...] = ()

    @property
    def feeding_activity(self) -> float:
        """How much they feed where they likely are, as a share of their most, 0 to 1."""
        return float((self.activity * self.belief.mass()).sum())

    @property
    def sun_azimuth_deg(self) -> float:
        """Where the sun stands, degrees clockwise from true north."""
        return sun_azimuth_deg(self.conditions.place, self.conditions.at)

    @property
    def activity_why(self) -> Phrase:
        """How much they feed, in words."""
        at_c = float((self.profile.water_c * self.belief.mass()).sum())
        share = self.feeding_activity
        said = next(words for least, words in ACTIVITY_WORDS if share >= least)
        return Phrase(f"{said} at {{at_c}}: {{share_pct}} of their most.", {"at_c": at_c, "share_pct": 100.0 * share})

    @property
    def reminders(self) -> tuple[Phrase, ...]:
        """Return what holds on any day out, to be said below the cautions."""
        return reminders_for(float(self.profile.water_c[0]), self.conditions.wind, self.sun_elevation_deg)

    @property
    def may_be_iced(self) -> bool:
        """Whether it makes sense to ask for ice, even of a reading that looks odd."""
        top = min(self.conditions.readings, key=lambda reading: reading.depth_m)
        return self.conditions.ice or top.water_c <= MAY_BE_ICED_C

    @property
    def iced(self) -> bool:
        """Whether ice covers the place, as said or as the surface temperature tells."""
        return self.conditions.ice or float(self.profile.water_c[0]) <= FREEZING_C


def check_time(at: datetime, now: datetime) -> None:
    """Raise `BadInput` when `at` lies further ahead of `now` than a plan can reach, or before 1950."""
    if at > now + FARTHEST_PLAN:
        raise BadInput(f"{at:%d %B %Y} is more than {FARTHEST_PLAN.days} days ahead. Choose a nearer day.", field="at_local")
    if at.year < 1950:
        raise BadInput("The date lies before 1950.", field="at_local")


def read_water(conditions: Conditions, judgement: Judgement = JUDGEMENT) -> WaterPicture:
    """Return the picture of the water that these conditions give.

    Oxygen that was not measured is a cautious estimate, and counts with its doubt. Over what is assumed the belief is averaged.

    Raises
    ------
    MissingReading, BadInput, OutOfRange
        As `build_profile`.
    """
    if not conditions.assumed:
        return _read(conditions, judgement)
    picture, unread, read_share = averaged_over(conditions, lambda known: _read(known, judgement))
    profile = picture.profile
    for assumption in conditions.assumed:
        if assumption.name == SURFACE:
            doubt_c = (assumption.high - assumption.low) / TENTH_TO_TENTH
            profile = replace(profile, spread_c=np.hypot(profile.spread_c, doubt_c))
    return replace(
        picture,
        profile=profile,
        unread=unread,
        measured_share=read_share * _measured_share(profile, picture.belief),
        wanted_reading_m=_wanted_reading_m(profile, picture.belief),
    )


def _read(conditions: Conditions, judgement: Judgement) -> WaterPicture:
    """Return the picture of conditions that are all known."""
    profile = build_profile(
        conditions.readings, conditions.deepest_m, conditions.lake, conditions.at.date(), conditions.expected
    )
    layers = _layers(profile, conditions.hypsography)
    elevation = sun_elevation_deg(conditions.place, conditions.at)
    brightness = surface_brightness(elevation, conditions.cloud_fraction)
    light = brightness * light_fraction(profile.depth_m, conditions.secchi_m)
    foods = rank_food(
        latitude_deg=conditions.place.latitude_deg,
        on=conditions.at.date(),
        hour=conditions.at.hour + conditions.at.minute / 60.0,
        water_c=float(profile.water_c.max()),
        wind_speed_mps=conditions.wind.speed_mps,
        brightness=brightness,
        signs=conditions.signs,
        sample=conditions.sample,
        bottom_m=conditions.deepest_m,
    )
    progress = season_progress(conditions.lake, conditions.at.date())
    oxygen = oxygen_profile(
        profile.depth_m,
        profile.water_c,
        conditions.lake.altitude_m,
        layers.thermocline_m,
        conditions.oxygen,
        secchi_m=conditions.secchi_m,
        layered_d=max(progress, 0.0) * season_days(conditions.lake),
        deepest_m=_lake_deepest_m(conditions),
        expected=conditions.expected,
    )
    lets = [
        temperature_factor(profile, conditions.species, judgement),
        oxygen_factor(profile, layers, oxygen, judgement),
        light_factor(profile.depth_m, brightness, conditions.secchi_m, conditions.wind.speed_mps),
    ]
    season = season_factor(profile.depth_m, progress, northern_day(conditions.place.latitude_deg, conditions.at.date()))
    if season is not None and conditions.sample is None:
        lets.append(season)
    belief, foods = form_belief(
        column_of(conditions, profile, light, brightness),
        lets,
        foods,
        [SIGNS[key] for key in conditions.signs],
        judgement,
    )
    if conditions.lean is not None:
        belief, foods = leaned(belief, foods, conditions.lean)
    breathes = oxygen.oxygen_mgl >= float(LIVABLE_MGL)
    fits = (feeding_share(conditions.species, profile.water_c) >= COMFORTABLE_SHARE) & breathes
    livable = (profile.water_c <= conditions.species.stress_c) & breathes
    surface_c = float(profile.water_c[0])
    activity = activity_share(conditions.species, profile.water_c, profile.spread_c) * oxygen_share(
        oxygen.oxygen_mgl, profile.water_c, oxygen.spread_mgl
    )
    return WaterPicture(
        conditions=conditions,
        profile=profile,
        layers=layers,
        oxygen=oxygen,
        comfort_bands=depth_bands(profile.depth_m, fits),
        livable_bands=depth_bands(profile.depth_m, livable),
        sun_elevation_deg=elevation,
        brightness=brightness,
        light=light,
        oxygen_saturation_mgl=oxygen_saturation_mgl(max(surface_c, 0.0), conditions.lake.altitude_m),
        belief=belief,
        measured_share=_measured_share(profile, belief),
        wanted_reading_m=_wanted_reading_m(profile, belief),
        cautions=cautions_for(
            surface_c, conditions.wind, conditions.species, elevation, ice=conditions.ice or surface_c <= FREEZING_C
        ),
        foods=foods,
        trend=_trend(conditions),
        activity=activity,
        judgement=judgement,
    )


def column_of(conditions: Conditions, profile: Profile, light: FloatArray, brightness: float) -> Column:
    """Return the water that food lives in."""
    sampled = frozenset(item.food_key for item in conditions.sample.items) if conditions.sample else frozenset()
    return Column(
        depth_m=profile.depth_m,
        light=light,
        brightness=brightness,
        bottom_m=conditions.bottom_depth_m,
        far_m=conditions.bottom_depth_m if conditions.far_bottom_depth_m is None else conditions.far_bottom_depth_m,
        weed_m=conditions.weed_m,
        secchi_m=conditions.secchi_m,
        sampled=sampled,
        nothing_shows="nothing" in conditions.signs,
    )


def _layers(profile: Profile, hypsography: Hypsography | None = None) -> Layers:
    """Return the layers; a thermocline below what was read must stand out of what is not known there."""
    layers = find_layers(profile.depth_m[::2], profile.water_c[::2], hypsography)
    if layers.thermocline_m is None or layers.thermocline_m <= profile.measured_to_m:
        return layers
    fall_c = abs(float(profile.water_c[0] - profile.water_c[-1]))
    if fall_c >= GUESSED_LAYERS * float(profile.spread_c[-1]):
        return layers
    return Layers(float(profile.depth_m[-1]), None, None, None)


def _lake_deepest_m(conditions: Conditions) -> float:
    """Return how deep the water goes here [m]: as the chart has it where there is one, or as deep as it is fished."""
    charted = 0.0 if conditions.hypsography is None else conditions.hypsography.deepest_m
    return max(conditions.deepest_m, charted)


def check_open_water(picture: WaterPicture) -> None:
    """Raise `OnIce` where ice covers the place: no plan is made for it."""
    if picture.iced:
        raise OnIce()


def _trend(conditions: Conditions) -> Phrase | None:
    """Return how the surface has changed since the earliest lowering of the day."""
    if not conditions.earlier:
        return None
    first = min(conditions.earlier, key=lambda lowering: lowering.at)
    then = min(first.readings, key=lambda r: r.depth_m).water_c
    now = min(conditions.readings, key=lambda r: r.depth_m).water_c
    if abs(now - then) < 0.3:
        text = f"The top has kept its temperature since {first.at:%H:%M}."
    else:
        text = f"The top was {{then_c}} at {first.at:%H:%M} and has {'warmed' if now > then else 'cooled'} to {{now_c}}."
    return Phrase(text, {"then_c": then, "now_c": now})


def _measured_share(profile: Profile, belief: Belief) -> float:
    """Return how much of the belief rests on readings: 1 where the thermometer's own error is all, 0 at a plain guess."""
    guess = np.clip((profile.spread_c - float(THERMOMETER_C)) / GUESS_SPREAD_C, 0.0, 1.0)
    return float(((1.0 - guess) * belief.mass()).sum())


def _wanted_reading_m(profile: Profile, belief: Belief) -> float | None:
    """Return where belief and ignorance of the temperature meet most, to half a metre."""
    doubt = belief.density_pm * np.maximum(profile.spread_c - KNOWN_C, 0.0)
    if float(doubt.max()) * float(profile.depth_m[-1]) < LEAST_DOUBT_C:
        return None
    return min(round(2.0 * float(profile.depth_m[int(np.argmax(doubt))])) / 2.0, float(profile.depth_m[-1]))
