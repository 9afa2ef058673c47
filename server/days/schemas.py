"""The log as the API speaks it."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from common.fields import within
from ninja import Field, Schema
from pydantic import AwareDatetime

from advice.action_schemas import ActionOut, FishedIn, RigIn
from advice.condition_schemas import ConditionsIn
from stillthread.ranges import CAST_ELAPSED_S, FISH_LENGTH_M

Kind = Literal["cast", "nothing", "knock", "take", "lost", "landed"]


class DepthOut(Schema):
    low_m: float
    high_m: float


class DayOut(Schema):
    """A day with the conditions it began under and what came of it. `take_depths` are where takes, losses and fish landed
    came."""

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
    """The conditions under which the day begins; its time may not lie ahead."""


class LoggedPresentationIn(FishedIn):
    """What is fished from `started_at` on, and the conditions then; the day's where none are given."""

    started_at: AwareDatetime
    conditions: ConditionsIn | None = None
    long_leader_ok: bool = False


class LoggedPresentationOut(Schema):
    id: UUID
    conditions: ConditionsIn
    rig: RigIn
    action: ActionOut
    started_at: datetime
    low_m: float
    high_m: float


class LoggedPresentationPage(Schema):
    items: list[LoggedPresentationOut]
    count: int


class EntryIn(Schema):
    """`cast_elapsed_s` is the time since the fly landed; with it the depth of the fly at that moment is kept."""

    presentation_id: UUID
    kind: Kind
    at: AwareDatetime
    cast_elapsed_s: Annotated[float | None, within(CAST_ELAPSED_S)] = None
    species: Annotated[str, Field(max_length=20)] = ""
    length_m: Annotated[float | None, within(FISH_LENGTH_M)] = None


class EntryOut(EntryIn):
    id: UUID
    depth_low_m: float
    depth_high_m: float


class EntryPage(Schema):
    items: list[EntryOut]
    count: int
