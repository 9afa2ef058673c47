"""What is done with a rig, as the API speaks it: a cast, a float that hangs, a tow. One shape to ask, to show and to keep."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Field, Schema

from box.schemas import FlyIn, LeaderIn, LineIn
from stillthread.plan.actions import USUAL_DRIFT_S, USUAL_TOW_S

Indicator = Literal["fixed", "sliding", "quick-release"]


class PlacedFlyIn(Schema):
    fly: FlyIn
    above_point_m: Annotated[float, Field(ge=0, le=12)] = 0.0
    dropper_m: Annotated[float, Field(ge=0, le=0.5)] = 0.0


class RigIn(Schema):
    line: LineIn
    leader: LeaderIn
    flies: Annotated[list[PlacedFlyIn], Field(min_length=1, max_length=4)]


class CastIn(Schema):
    """Cast, counted down and retrieved; `retrieve_mps` is the average speed, the retrieve's usual one unless given."""

    kind: Literal["cast"]
    cast_m: Annotated[float, Field(ge=3, le=60)] = 18.0
    count_s: Annotated[float, Field(ge=0, le=300)]
    retrieve_key: Annotated[str, Field(max_length=24)]
    retrieve_mps: Annotated[float | None, Field(ge=0.01, le=3)] = None
    slack: Annotated[float, Field(ge=0, le=0.5)] = 0.0
    loose: bool = False
    tip_ms: Annotated[float, Field(ge=-1, le=1)] = 0.0


class HangIn(Schema):
    """A float set so far above the point, cast `distance_m` out and left to drift before the wind for so long."""

    kind: Literal["hang"]
    set_depth_m: Annotated[float, Field(ge=0.2, le=15)]
    indicator: Indicator = "fixed"
    diameter_m: Annotated[float, Field(ge=0.006, le=0.06)] = 0.019
    drift_s: Annotated[float, Field(ge=5, le=600)] = USUAL_DRIFT_S
    twitch_every_s: Annotated[float | None, Field(ge=2, le=600)] = None
    distance_m: Annotated[float, Field(ge=1, le=60)] = 10.0


class TowIn(Schema):
    """Line and leader let out behind a boat and towed."""

    kind: Literal["tow"]
    out_m: Annotated[float, Field(ge=3, le=200)]
    tow_ms: Annotated[float, Field(ge=0, le=2)]
    for_s: Annotated[float, Field(ge=5, le=600)] = USUAL_TOW_S


ActionIn = Annotated[CastIn | HangIn | TowIn, Field(discriminator="kind")]


class CastOut(CastIn):
    """A cast with its retrieve in words."""

    retrieve_mps: float
    retrieve_name: str
    retrieve_rhythm: str


ActionOut = Annotated[CastOut | HangIn | TowIn, Field(discriminator="kind")]


class FishedIn(Schema):
    """A rig and what is done with it."""

    rig: RigIn
    action: ActionIn


class CastingIn(Schema):
    """A rig and how it is cast."""

    rig: RigIn
    action: CastIn
