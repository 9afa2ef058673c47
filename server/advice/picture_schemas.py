"""The water as read, as the API shows it."""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal

from ninja import Schema

from advice.condition_schemas import AssumedName, OxygenReadingIn, ReadingIn


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


class OxygenFlagOut(Schema):
    """An oxygen reading that breaks with those beside it; `followed` when the angler trusts it."""

    depth_m: float
    oxygen_mgl: float
    why: PhraseOut
    followed: bool


class OxygenOut(Schema):
    """Oxygen on the profile's `depth_m`; estimated above and below the measured depths, or everywhere where they are null."""

    oxygen_mgl: list[float]
    spread_mgl: list[float]
    readings: list[OxygenReadingIn]
    measured_from_m: float | None
    measured_to_m: float | None
    flags: list[OxygenFlagOut]


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
    stability_jm2: float | None


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


class HandlingOut(Schema):
    """How long a fish may be played, be in the air, and is to be held; whether it should go back at all."""

    play_s: float
    air_s: float
    hold_s: float
    lives: bool
    words: PhraseOut


class UnreadOut(Schema):
    """What stands for a condition that nobody read: one chance in ten lies below `low`, and above `high`. Reading it would
    narrow the water to be searched by `narrows_m` [m], on average.
    """

    name: AssumedName
    value: float
    low: float
    high: float
    why: PhraseOut
    narrows_m: float


class WorthsOut(Schema):
    """`searched_m` of water hold 8 chances in 10: a reading at `reading_at_m` would make that less by `reading_m`, a sample of
    what they eat by `sample_m` [m].
    """

    searched_m: float
    reading_at_m: float | None
    reading_m: float
    sample_m: float


class WorkedOutOut(Schema):
    """The lake\'s weather stands behind this column: the day on which it was last read before this one, and a reading that it
    doubts."""

    read_on: date | None
    doubt: PhraseOut | None


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
    unread: list[UnreadOut]
    wanted_reading_m: float | None
    handling: HandlingOut
    cautions: list[CautionOut]
    reminders: list[PhraseOut]
    foods: list[FoodOut]
    look_for: SignOut | None
    wind_notes: list[PhraseOut]
    worked_out: WorkedOutOut | None


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
