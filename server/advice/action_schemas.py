"""What is done with a rig, as the API speaks it: a cast, a float that hangs, a tow. One shape to ask, to show and to keep."""

from __future__ import annotations

from typing import Annotated, Literal

from common.fields import within
from ninja import Field, Schema

from box.schemas import FlyIn, LeaderIn, LineIn
from stillthread.api import (
    ABOVE_POINT_M,
    CAST_M,
    COUNT_S,
    DRAG_MPS,
    DRAGGED_MPS,
    DROPPER_M,
    FED_MPS,
    FLOAT_DIAMETER_M,
    FLOAT_DISTANCE_M,
    FOR_S,
    MEND_S,
    MOST_MENDS,
    OFF_WIND_DEG,
    OUT_M,
    RETRIEVE_MPS,
    SET_DEPTH_M,
    SLACK,
    TIP_MPS,
    TOW_MPS,
    TWITCH_EVERY_S,
    USUAL_CAST_M,
    USUAL_DRIFT_S,
    USUAL_FLOAT_M,
    USUAL_TOW_S,
)

# The angle between the cast and where the wind goes: 0 with it, 90 across it, 180 into it.
OffWind = Annotated[float, within(OFF_WIND_DEG)]
# When the floating line is laid back upwind.
Mends = Annotated[list[Annotated[float, within(MEND_S)]], Field(max_length=MOST_MENDS)]
Indicator = Literal["fixed", "sliding", "quick-release"]


class PlacedFlyIn(Schema):
    fly: FlyIn
    above_point_m: Annotated[float, within(ABOVE_POINT_M)] = 0.0
    dropper_m: Annotated[float, within(DROPPER_M)] = 0.0


class RigIn(Schema):
    line: LineIn
    leader: LeaderIn
    flies: Annotated[list[PlacedFlyIn], Field(min_length=1, max_length=4)]


class CastIn(Schema):
    """Cast, counted down and retrieved; `retrieve_mps` is the average speed, the retrieve's usual one unless given.

    Cast `off_wind_deg` off where the wind goes and mended at `mends_s`. With `recasts` it ends once a bow drags the fly
    sideways at `drag_mps`.
    """

    kind: Literal["cast"]
    cast_m: Annotated[float, within(CAST_M)] = float(USUAL_CAST_M)
    count_s: Annotated[float, within(COUNT_S)]
    retrieve_key: Annotated[str, Field(max_length=24)]
    retrieve_mps: Annotated[float | None, within(RETRIEVE_MPS)] = None
    slack: Annotated[float, within(SLACK)] = 0.0
    loose: bool = False
    tip_mps: Annotated[float, within(TIP_MPS)] = 0.0
    tip_y_mps: Annotated[float, within(TIP_MPS)] = 0.0
    off_wind_deg: OffWind = 90.0
    mends_s: Mends = []
    recasts: bool = False
    drag_mps: Annotated[float, within(DRAG_MPS)] = float(DRAGGED_MPS)


class HangIn(Schema):
    """A float set so far above the point, cast `distance_m` out and left to drift before the wind for so long, line fed out at
    `fed_mps`. With `recasts` it ends once the line drags the float."""

    kind: Literal["hang"]
    set_depth_m: Annotated[float, within(SET_DEPTH_M)]
    indicator: Indicator = "fixed"
    diameter_m: Annotated[float, within(FLOAT_DIAMETER_M)] = float(USUAL_FLOAT_M)
    drift_s: Annotated[float, within(FOR_S)] = float(USUAL_DRIFT_S)
    twitch_every_s: Annotated[float | None, within(TWITCH_EVERY_S)] = None
    distance_m: Annotated[float, within(FLOAT_DISTANCE_M)] = 10.0
    off_wind_deg: OffWind = 90.0
    mends_s: Mends = []
    recasts: bool = False
    fed_mps: Annotated[float, within(FED_MPS)] = 0.0


class TowIn(Schema):
    """Line and leader let out behind a boat and towed."""

    kind: Literal["tow"]
    out_m: Annotated[float, within(OUT_M)]
    tow_mps: Annotated[float, within(TOW_MPS)]
    for_s: Annotated[float, within(FOR_S)] = float(USUAL_TOW_S)


ActionIn = Annotated[CastIn | HangIn | TowIn, Field(discriminator="kind")]


class CastOut(CastIn):
    """A cast with its retrieve in words."""

    retrieve_mps: float
    retrieve_name: str
    retrieve_rhythm: str
    pull_s: float
    pause_s: float


ActionOut = Annotated[CastOut | HangIn | TowIn, Field(discriminator="kind")]


class FishedIn(Schema):
    """A rig and what is done with it."""

    rig: RigIn
    action: ActionIn


class CastingIn(Schema):
    """A rig and how it is cast."""

    rig: RigIn
    action: CastIn
