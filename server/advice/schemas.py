"""Conditions, pictures, plans and simulations as the API speaks them: SI units, named."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from common.fields import within
from ninja import Field, Schema
from pydantic import AwareDatetime

from stillthread.ranges import (
    AIR_C,
    BOTTOM_DEPTH_M,
    DEPTH_M,
    FOOD_SIZE_MM,
    LATITUDE_DEG,
    LONGITUDE_DEG,
    OXYGEN_MGL,
    SAMPLE_AGE_H,
    SAMPLE_COUNT,
    SECCHI_M,
    SHARE,
    WATER_C,
    WEED_M,
    WIND_FROM_DEG,
    WIND_MS,
)


class ReadingIn(Schema):
    """`trusted`: the angler has checked a reading that looks odd."""

    depth_m: Annotated[float, within(DEPTH_M)]
    water_c: Annotated[float, within(WATER_C)]
    trusted: bool = False


class OxygenReadingIn(Schema):
    depth_m: Annotated[float, within(DEPTH_M)]
    oxygen_mgl: Annotated[float, within(OXYGEN_MGL)]


class LoweringIn(Schema):
    """Temperatures read earlier, at a clock time at the water."""

    at_local: datetime
    readings: Annotated[list[ReadingIn], Field(min_length=1, max_length=2000)]


class SampleItemIn(Schema):
    food_key: Annotated[str, Field(max_length=24)]
    count: Annotated[int, within(SAMPLE_COUNT)]
    size_mm: Annotated[float | None, within(FOOD_SIZE_MM)] = None
    colour: Annotated[str, Field(max_length=40)] = ""


class SampleIn(Schema):
    """What a throat sample held, and how long ago it was taken."""

    items: Annotated[list[SampleItemIn], Field(min_length=1, max_length=16)]
    age_h: Annotated[float, within(SAMPLE_AGE_H)] = 0.0


class PlaceIn(Schema):
    """Where the angler stands or is anchored, degrees of WGS 84."""

    latitude_deg: Annotated[float, within(LATITUDE_DEG)]
    longitude_deg: Annotated[float, within(LONGITUDE_DEG)]


class ConditionsIn(Schema):
    """What was read. `at_local` is the clock time at the water, without a zone; `species` is the water's unless given.

    `far_bottom_depth_m` is the bottom under the end of the cast where it differs; `weed_m` how high weed stands.
    `signs` are keys of the food signs that were seen. `readings` were taken at `read_at_local`, or now; of these and the
    `earlier` ones the newest counts, and older ones where it does not reach.
    """

    water_id: int
    at_local: datetime
    readings: Annotated[list[ReadingIn], Field(min_length=1, max_length=2000)]
    wind_speed_ms: Annotated[float, within(WIND_MS)]
    wind_from_deg: Annotated[float, within(WIND_FROM_DEG)]
    cloud_fraction: Annotated[float, within(SHARE)]
    secchi_m: Annotated[float, within(SECCHI_M)]
    bottom_depth_m: Annotated[float, within(BOTTOM_DEPTH_M)]
    species: Annotated[str | None, Field(max_length=20)] = None
    far_bottom_depth_m: Annotated[float | None, within(BOTTOM_DEPTH_M)] = None
    weed_m: Annotated[float, within(WEED_M)] = 0.0
    signs: Annotated[list[Annotated[str, Field(max_length=24)]], Field(max_length=16)] = []
    sample: SampleIn | None = None
    oxygen: Annotated[list[OxygenReadingIn], Field(max_length=200)] = []
    read_at_local: datetime | None = None
    earlier: Annotated[list[LoweringIn], Field(max_length=12)] = []
    ice: bool = False
    place: PlaceIn | None = None


class PhraseOut(Schema):
    """A sentence with placeholders, such as {start_m}, and their values in SI; the last part of a name is its unit."""

    text: str
    values: dict[str, float]


class ProfileOut(Schema):
    depth_m: list[float]
    water_c: list[float]
    spread_c: list[float]
    measured_to_m: float


class FlagOut(Schema):
    """A reading that breaks with the others; `followed` when the angler trusts it."""

    depth_m: float
    water_c: float
    why: PhraseOut
    followed: bool


class OxygenOut(Schema):
    """Oxygen on the profile's `depth_m`; estimated above and below the measured depths, or everywhere where they are null."""

    oxygen_mgl: list[float]
    spread_mgl: list[float]
    readings: list[OxygenReadingIn]
    measured_from_m: float | None
    measured_to_m: float | None


class LoweringOut(Schema):
    """Temperatures read at an earlier time."""

    clock: str
    readings: list[ReadingIn]


class LayersOut(Schema):
    """`stability_jm2`: the work it would take to mix the column, per square metre."""

    mixed_layer_m: float
    thermocline_m: float | None
    metalimnion_top_m: float | None
    metalimnion_bottom_m: float | None
    stability_jm2: float


class BandOut(Schema):
    top_m: float
    bottom_m: float


class LikelyBandOut(BandOut):
    """`chance` that they feed in this run of depths, 0 to 1."""

    chance: float


class FactorOut(Schema):
    key: str
    name: str
    share: list[float]
    why: PhraseOut


class BeliefOut(Schema):
    """`density_pm` is the probability per metre on the profile's `depth_m`; `bands` hold about 60 % of it together."""

    density_pm: list[float]
    bands: list[LikelyBandOut]
    main_band: LikelyBandOut
    mean_m: float
    reach_up_m: float
    factors: list[FactorOut]


class CautionOut(Schema):
    key: str
    level: Literal["note", "care", "stop"]
    words: PhraseOut


class RangeOut(Schema):
    low: float
    high: float


class FoodOut(Schema):
    """A food with its probability; sizes and speeds are ranges."""

    key: str
    name: str
    layer: Literal["bottom", "rising", "film", "weed", "margin", "light", "upper"]
    where: str
    probability: float
    size_mm: RangeOut
    hooks: RangeOut
    speed_mps: RangeOut
    colours: list[str]
    reasons: list[PhraseOut]


class SignOut(Schema):
    """Something that can be seen and tells of food; `asks` says how to look for it."""

    key: str
    name: str
    asks: str


class ActivityOut(Schema):
    """How much they feed where they likely are, as a share of their most, 0 to 1; where they are is the belief's to say."""

    share: float
    why: PhraseOut


class PictureOut(Schema):
    """The water as read. `light` is daylight at depth, 1 = clear noon with the sun overhead.

    `comfort_bands` suit the species in temperature and oxygen, `livable_bands` it can stay in; either may be several.
    """

    at: datetime
    bottom_depth_m: float
    far_bottom_depth_m: float | None
    deepest_m: float
    weed_m: float
    species: str
    readings: list[ReadingIn]
    profile: ProfileOut
    layers: LayersOut
    oxygen: OxygenOut
    flags: list[FlagOut]
    earlier: list[LoweringOut]
    trend: PhraseOut | None
    iced: bool
    may_be_iced: bool
    comfort_bands: list[BandOut]
    livable_bands: list[BandOut]
    sun_elevation_deg: float
    brightness: float
    light: list[float]
    oxygen_saturation_mgl: float
    wind_word: str
    wind_beaufort: int
    belief: BeliefOut
    activity: ActivityOut
    measured_share: float
    wanted_reading_m: float | None
    cautions: list[CautionOut]
    reminders: list[PhraseOut]
    foods: list[FoodOut]
    look_for: SignOut | None
    wind_notes: list[PhraseOut]


class StartOut(Schema):
    """A mark with its score, 1 for the best of the water."""

    mark_id: int
    name: str
    kind_key: str
    score: float
    depth_m: float | None
    lies: str | None
    reasons: list[PhraseOut]


class StartsOut(Schema):
    """Where to start, best first."""

    starts: list[StartOut]


class ForecastHourIn(Schema):
    at: AwareDatetime
    cloud_fraction: Annotated[float, within(SHARE)]
    wind_speed_ms: Annotated[float, within(WIND_MS)]
    wind_from_deg: Annotated[float | None, within(WIND_FROM_DEG)] = None
    air_c: Annotated[float | None, within(AIR_C)] = None


class DayStripIn(Schema):
    """Sky and wind stay as given, or follow the nearest forecast hour."""

    conditions: ConditionsIn
    forecast: Annotated[list[ForecastHourIn], Field(max_length=48)] = []


class HourOut(Schema):
    """One hour; `top_m` to `bottom_m` is the likeliest band, `surface_c` a guess from what was read."""

    at: datetime
    clock: str
    brightness: float
    top_m: float
    bottom_m: float
    mean_m: float
    food_name: str
    food_probability: float
    wind_speed_ms: float
    wind_from_deg: float
    cloud_fraction: float
    surface_c: float
    air_c: float | None


class SpanOut(Schema):
    begins: str
    ends: str


class DayStripOut(Schema):
    """The day from first to last light; clock times at the water, null where the sun does not rise or set."""

    hours: list[HourOut]
    dawn: str | None
    sunrise: str | None
    sunset: str | None
    dusk: str | None
    low_light: list[SpanOut]
    notes: list[PhraseOut]


class ProfileFileOut(Schema):
    """What a file held; `notes` say what of it was left out."""

    readings: list[ReadingIn]
    oxygen: list[OxygenReadingIn]
    notes: list[str]


class RetrieveOut(Schema):
    key: str
    name: str
    mean_mps: float
    rhythm: str


class LineClassOut(Schema):
    """A kind of line; `has_tip` when only its front sinks."""

    key: str
    name: str
    label_sink_rate_mps: float
    has_tip: bool


class SpeciesOut(Schema):
    key: str
    name: str
    best_low_c: float
    best_high_c: float
    stress_c: float
    limit_c: float


class FoodNameOut(Schema):
    key: str
    name: str


class MethodNameOut(Schema):
    key: str
    name: str


class MarkKindOut(Schema):
    key: str
    name: str


class SchoolOut(Schema):
    """A way of thinking, with what it believes in one line."""

    key: str
    name: str
    believes: str


class TradeOut(Schema):
    """The tables behind the forms: retrieves, lines, species, the counts of the ladder, food and its signs, kinds of mark."""

    retrieves: list[RetrieveOut]
    line_classes: list[LineClassOut]
    species: list[SpeciesOut]
    signs: list[SignOut]
    foods: list[FoodNameOut]
    mark_kinds: list[MarkKindOut]
    schools: list[SchoolOut]
    methods: list[MethodNameOut]
