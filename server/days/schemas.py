"""The log as the API speaks it."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from common.fields import within
from common.trade_keys import EntryKey, OutcomeKey
from ninja import Field, Schema
from pydantic import AwareDatetime, Base64Bytes

from advice.action_schemas import ActionOut, FishedIn, RigIn
from advice.condition_schemas import ConditionsIn
from advice.picture_schemas import PhraseOut
from advice.search_schemas import HookSize, Phase, ToldPace
from stillthread.api import CAST_ELAPSED_S, CAST_TOWARD, DEPTH_M, FISH_LENGTH_M, FISH_WEIGHT_KG, PLAYED_S, WATER_C, WIND_MPS

WallMs = Annotated[int, Field(ge=0, le=253_370_764_800_000)]  # to the year 9999


class DeviceClockIn(Schema):
    """What the clocks of the device say as it sends what it wrote down, in headers.

    Its wall clock then and now, in ms since 1970, and for how long the page's own clock ran in between, where it was not opened
    anew. From them the server works out by how much the device is wrong; without them a time is taken as said.
    """

    x_written_ms: WallMs | None = None
    x_now_ms: WallMs | None = None
    x_ran_ms: WallMs | None = None


class TimedOut(Schema):
    """`device_at` is what the device's clock said, where it was kept; `odd_time`: it lies ahead of when it came."""

    device_at: datetime | None
    odd_time: bool


class DepthOut(Schema):
    low_m: float
    high_m: float


class DayOut(TimedOut):
    """A day with the conditions it began under and what came of it. `take_depths` are where fish took.

    A take that is logged and then lost or landed is one fish, and counts by its end."""

    id: UUID
    water_id: int
    water_name: str
    at: datetime
    conditions: ConditionsIn
    counts: dict[str, int]
    take_depths: list[DepthOut]
    longest_m: float | None
    notes: str
    hours: float


class DayPage(Schema):
    items: list[DayOut]
    count: int


class DayIn(ConditionsIn):
    """The conditions under which the day begins."""


Standing = Literal["best", "as-good", "other", "changed", "move"]
Takes = Annotated[float, Field(ge=0, le=1000)]


class AdviceIn(Schema):
    """What the plan said of what is fished: how it stood, and takes an hour with the range of eight days in ten. A `move` is
    what the search proposed on the water: it promises no takes an hour."""

    standing: Standing
    method_key: Annotated[str, Field(max_length=24)]
    takes_ph: Takes | None = None
    low_ph: Takes | None = None
    high_ph: Takes | None = None


class LoggedPresentationIn(FishedIn):
    """What is fished from `started_at` on, and the conditions then; the day's where none are given. `advice` is what the
    plan promised of it, where it is the plan's."""

    started_at: AwareDatetime
    conditions: ConditionsIn | None = None
    long_leader_ok: bool = False
    advice: AdviceIn | None = None


class LoggedFlyPathOut(Schema):
    name: str
    depth_m: list[float]


class LoggedPathOut(Schema):
    """Where each fly was in a cast, the point first; the others by their way up the leader."""

    time_s: list[float]
    flies: list[LoggedFlyPathOut]


class LoggedPresentationOut(TimedOut):
    """`changed` says what was changed from what was fished before, and that of several things at once none can be blamed."""

    id: UUID
    conditions: ConditionsIn
    rig: RigIn
    action: ActionOut
    started_at: datetime
    low_m: float
    high_m: float
    path: LoggedPathOut
    advice: AdviceIn | None
    changed: PhraseOut | None


class LoggedPresentationPage(Schema):
    items: list[LoggedPresentationOut]
    count: int


class EntryIn(Schema):
    """`cast_elapsed_s` is the time since the fly landed; with it the depth of the fly at that moment is kept.

    Of a landed fish: its length, what it weighed on a balance, whether it was kept, how long it was played. Of a cast: where it
    went, -2 hard left to 2 hard right, and whether far. Of what came to a fly: which, by its place from the point, and in which
    phase of the cast. Of a follow, fish seen and what another told: how deep, and of the last the class, colour and size of his
    fly and its pace. `catching`: somebody near is, nobody knows how. `place`: come to another.
    """

    presentation_id: UUID
    kind: EntryKey
    at: AwareDatetime
    cast_elapsed_s: Annotated[float | None, within(CAST_ELAPSED_S)] = None
    species: Annotated[str, Field(max_length=20)] = ""
    length_m: Annotated[float | None, within(FISH_LENGTH_M)] = None
    weight_kg: Annotated[float | None, within(FISH_WEIGHT_KG)] = None
    kept: bool | None = None
    played_s: Annotated[float | None, within(PLAYED_S)] = None
    toward: Annotated[int | None, within(CAST_TOWARD)] = None
    far: bool | None = None
    depth_m: Annotated[float | None, within(DEPTH_M)] = None
    fly: Annotated[int | None, Field(ge=0, le=3)] = None
    phase: Phase | None = None
    fly_class: Annotated[int | None, Field(ge=1, le=8)] = None
    colour: Annotated[str, Field(max_length=80)] = ""
    hook_size: HookSize | None = None
    pace: ToldPace | None = None


class EntryOut(EntryIn, TimedOut):
    """`usual_kg` is what a well-fed fish of its kind and length weighs, by a published equation; `condition_pct` what it was
    weighed at, as a share of that."""

    id: UUID
    usual_kg: float | None
    condition_pct: float | None
    has_photo: bool
    depth_low_m: float
    depth_high_m: float


class EntryPage(Schema):
    items: list[EntryOut]
    count: int


class CatchOut(Schema):
    """Fish that came with another log; `timed`: it told when, else the time is noon."""

    id: UUID
    at: datetime
    timed: bool
    count: int
    species: str
    length_m: float | None
    weight_kg: float | None
    depth_m: float | None
    kept: bool | None
    fly: str
    method: str
    notes: str


class CatchPage(Schema):
    items: list[CatchOut]
    count: int


class PhotoIn(Schema):
    """A picture as JPEG, PNG or WebP, in base64."""

    image: Annotated[Base64Bytes, Field(max_length=2_000_000)]


class PhotoOut(Schema):
    width_px: int
    height_px: int


class DaysQuery(Schema):
    """Which days. `months` are 1 to 12; temperatures are of the top; `text` looks for every word in water, ways, lines, flies,
    spots and notes."""

    water_id: int | None = None
    from_date: date | None = None
    to_date: date | None = None
    months: Annotated[list[Annotated[int, Field(ge=1, le=12)]], Field(max_length=12)] = []
    least_c: Annotated[float | None, within(WATER_C)] = None
    most_c: Annotated[float | None, within(WATER_C)] = None
    least_wind_mps: Annotated[float | None, within(WIND_MPS)] = None
    most_wind_mps: Annotated[float | None, within(WIND_MPS)] = None
    text: Annotated[str, Field(max_length=80)] = ""


class DayChangeIn(Schema):
    """What is put right of a day afterwards; what is not named stays. Its water stays what it was."""

    notes: Annotated[str | None, Field(max_length=4000)] = None
    conditions: ConditionsIn | None = None


class EntryChangeIn(Schema):
    """What is put right of an entry afterwards; what is not named stays, and null takes a measure away. A fly that is told
    afterwards puts the depth right, too."""

    kind: OutcomeKey | None = None
    fly: Annotated[int | None, Field(ge=0, le=3)] = None
    phase: Phase | None = None
    at: AwareDatetime | None = None
    species: Annotated[str | None, Field(max_length=20)] = None
    length_m: Annotated[float | None, within(FISH_LENGTH_M)] = None
    weight_kg: Annotated[float | None, within(FISH_WEIGHT_KG)] = None
    kept: bool | None = None


class ChangedOut(Schema):
    """One change made afterwards: of an entry, or of the day itself, as it was before and as it was then."""

    id: int
    at: datetime
    entry_id: UUID | None
    before: dict[str, Any]
    after: dict[str, Any]


class ChangedPage(Schema):
    items: list[ChangedOut]
    count: int
