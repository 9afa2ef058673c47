"""Runs of the simulator as the API speaks them."""

from __future__ import annotations

from typing import Annotated, Literal

from common.fields import within
from ninja import Field, Schema

from advice.action_schemas import CastingIn, CastOut, FishedIn
from advice.condition_schemas import ConditionsIn
from advice.picture_schemas import PhraseOut
from box.schemas import LineIn
from stillthread.api import BOTTOM_DEPTH_M, DISTANCE_M, WATER_C, WEED_M, WIND_MPS


class CornerIn(Schema):
    """A corner of the bottom: so deep, so far from the rod."""

    distance_m: Annotated[float, within(DISTANCE_M)]
    depth_m: Annotated[float, within(BOTTOM_DEPTH_M)]


class RunIn(Schema):
    """A rig and what is done with it, in any water; a float drifts before the wind."""

    water_c: Annotated[float, within(WATER_C)] = 12.0
    bottom: Annotated[list[CornerIn], Field(min_length=1, max_length=200)]
    weed_m: Annotated[float, within(WEED_M)] = 0.0
    wind_speed_mps: Annotated[float, within(WIND_MPS)] = 0.0
    fished: FishedIn


class SimulationIn(Schema):
    conditions: ConditionsIn
    fished: CastingIn
    long_leader_ok: bool = False


class ChoiceOut(Schema):
    """A cast and what comes of it, for the point fly."""

    line: LineIn
    action: CastOut
    leader_name: str
    leader_m: float
    fly_name: str
    band_s: float
    cast_s: float
    band_min_per_cast: float
    plain_sum_m: float
    start_depth_m: float
    deepest_m: float
    low_m: float
    high_m: float
    reasons: list[PhraseOut]
    sum_differs: PhraseOut


class FlyPathOut(Schema):
    """One fly over the run's `time_s`. Eight times in ten it is between `shallow_m` and `deep_m`. `across_m` is how far to the
    side it is, empty where nothing moves across."""

    name: str
    depth_m: list[float]
    distance_m: list[float]
    speed_mps: list[float]
    across_m: list[float]
    shallow_m: list[float]
    deep_m: list[float]
    start_depth_m: float
    deepest_m: float
    end_depth_m: float
    low_m: float
    high_m: float
    settle_s: float
    contact_s: float
    weed_s: float
    layer_s: list[float]


class FloatOut(Schema):
    """What hangs on the float against what it carries, and how long a cast across the wind fishes before the line drags."""

    load_n: float
    lift_n: float
    carried: bool
    shortfall_m: list[float]
    recast_after_s: float | None


class SideOut(Schema):
    """What goes on across the cast, over the run's `time_s`: how far the line bows, what a strike has to take up, how fast the
    point fly is dragged through its water; when to mend first and when to recast."""

    bow_m: list[float]
    slack_m: list[float]
    drag_mps: list[float]
    mend_at_s: float | None
    recast_at_s: float | None
    words: list[PhraseOut]


class RunOut(Schema):
    """One presentation over time, at most 150 moments.

    `thread_distance_m` and `thread_depth_m` hold a row per `time_s`: the whole thread, rod tip or float first.
    `thread_across_m` is how far to the side, empty where nothing moves across. `line_node` is where the line meets the leader
    in such a row, `float_node` a float that is not its first (0: none).
    """

    time_s: list[float]
    phase: list[Literal["count", "retrieve", "lift", "hang"]]
    flies: list[FlyPathOut]
    thread_distance_m: list[list[float]]
    thread_depth_m: list[list[float]]
    thread_across_m: list[list[float]]
    line_node: int
    float_node: int
    side: SideOut | None
    layer_m: float
    plain_sum_m: float
    indicator: FloatOut | None = None


class SimulationOut(RunOut):
    """One cast in the water as read, with what it is worth."""

    choice: ChoiceOut
    bottom: list[CornerIn]
