"""The log as the API speaks it."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from common.fields import within
from ninja import Field, Schema
from pydantic import AwareDatetime, Base64Bytes

from advice.action_schemas import ActionOut, FishedIn, RigIn
from advice.condition_schemas import ConditionsIn
from stillthread.ranges import CAST_ELAPSED_S, CAST_TOWARD, DEPTH_M, FISH_LENGTH_M, FISH_WEIGHT_KG, PLAYED_S

Kind = Literal[
    "cast", "nothing", "knock", "take", "lost", "landed", "follow", "seen", "told", "catching", "place"
]  # fmt: skip


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


class DayPage(Schema):
    items: list[DayOut]
    count: int


class DayIn(ConditionsIn):
    """The conditions under which the day begins."""


class LoggedPresentationIn(FishedIn):
    """What is fished from `started_at` on, and the conditions then; the day's where none are given."""

    started_at: AwareDatetime
    conditions: ConditionsIn | None = None
    long_leader_ok: bool = False


class LoggedFlyPathOut(Schema):
    name: str
    depth_m: list[float]


class LoggedPathOut(Schema):
    """Where each fly was in a cast, the point first; the others by their way up the leader."""

    time_s: list[float]
    flies: list[LoggedFlyPathOut]


class LoggedPresentationOut(TimedOut):
    id: UUID
    conditions: ConditionsIn
    rig: RigIn
    action: ActionOut
    started_at: datetime
    low_m: float
    high_m: float
    path: LoggedPathOut


class LoggedPresentationPage(Schema):
    items: list[LoggedPresentationOut]
    count: int


class EntryIn(Schema):
    """`cast_elapsed_s` is the time since the fly landed; with it the depth of the fly at that moment is kept.

    Of a landed fish: its length, what it weighed on a balance, whether it was kept, how long it was played. Of a cast: where it
    went, -2 hard left to 2 hard right, and whether far. Of a follow, fish seen and what another told: how deep, and of the
    last the class of his fly. `catching`: somebody near is, nobody knows how. `place`: come to another.
    """

    presentation_id: UUID
    kind: Kind
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
    fly_class: Annotated[int | None, Field(ge=1, le=8)] = None


class EntryOut(EntryIn, TimedOut):
    """`usual_kg` is what a well-fed fish of its kind and length weighs, by a published equation."""

    id: UUID
    usual_kg: float | None
    has_photo: bool
    depth_low_m: float
    depth_high_m: float


class EntryPage(Schema):
    items: list[EntryOut]
    count: int


class PhotoIn(Schema):
    """A picture as JPEG, PNG or WebP, in base64."""

    image: Annotated[Base64Bytes, Field(max_length=2_000_000)]


class PhotoOut(Schema):
    width_px: int
    height_px: int
