"""Actions and their runs as the API shows them."""

from __future__ import annotations

from collections.abc import Sequence
from functools import singledispatch
from typing import Any

import numpy as np
import numpy.typing as npt

from advice.serializers import numbers, show_line, show_phrase
from stillthread.api import (
    LAYER_M,
    Action,
    Cast,
    CastReport,
    CastResult,
    Hang,
    PlacedFly,
    Rig,
    Side,
    SpreadResult,
    Troll,
    Water,
    side_of,
)

PHASES = ("count", "retrieve", "lift", "hang")
MOST_FRAMES, PLAN_FRAMES = 150, 80  # of one run, and of each of the many that a plan carries


@singledispatch
def show_action(action: Action) -> dict[str, Any]:
    """Return what is done as the contract has it."""
    raise NotImplementedError(type(action).__name__)


@show_action.register
def _show_cast(action: Cast) -> dict[str, Any]:
    retrieve = action.retrieve
    handling = {name: getattr(action, name) for name in ("cast_m", "count_s", "slack", "loose")}
    said = {"retrieve_key": retrieve.key, "retrieve_name": retrieve.name, "retrieve_rhythm": retrieve.rhythm,
            "pull_s": retrieve.pull_s, "pause_s": retrieve.pause_s}  # fmt: skip
    drift = {name: round(getattr(action, name), 3) for name in ("tip_mps", "tip_y_mps")}
    return {"kind": action.kind, **handling, **said, "retrieve_mps": retrieve.mean_mps, **drift, **_across(action),
            "drag_mps": action.drag_mps}  # fmt: skip


@show_action.register
def _show_hang(action: Hang) -> dict[str, Any]:
    return {
        "kind": action.kind,
        "set_depth_m": action.set_depth_m,
        "indicator": action.indicator,
        "diameter_m": action.diameter_m,
        "drift_s": round(action.for_s),
        "twitch_every_s": action.twitch_every_s,
        "distance_m": round(action.distance_m, 1),
        **_across(action),
        "fed_mps": action.fed_mps,
    }


@show_action.register
def _show_tow(action: Troll) -> dict[str, Any]:
    return {"kind": action.kind, "out_m": action.out_m, "tow_mps": action.speed_mps, "for_s": action.for_s}


def _across(action: Cast | Hang) -> dict[str, Any]:
    return {"off_wind_deg": action.off_wind_deg, "mends_s": list(action.mends_s), "recasts": action.recasts}


def show_choice(rig: Rig, cast: Cast, told: CastReport) -> dict[str, Any]:
    result = told.result
    low, high = result.middle_depth_m()
    return {
        "line": show_line(rig.line),
        "action": show_action(cast),
        "leader_name": rig.leader.name,
        "leader_m": rig.leader.length_m,
        "fly_name": rig.point_fly.name,
        "band_s": round(told.band_s, 1),
        "cast_s": round(told.cast_s, 1),
        "band_min_per_cast": round(told.band_s / 60.0, 2),
        "plain_sum_m": round(result.plain_sum_m, 3),
        "start_depth_m": round(result.start_depth_m(), 3),
        "deepest_m": round(result.deepest_m(), 3),
        "low_m": round(low, 3),
        "high_m": round(high, 3),
        "reasons": [show_phrase(phrase) for phrase in told.reasons],
        "sum_differs": show_phrase(told.sum_differs),
    }


def frames_of(result: CastResult, most: int = MOST_FRAMES) -> npt.NDArray[np.int64]:
    """Return the indices of at most `most` samples, evenly spread, first and last among them."""
    return np.unique(np.linspace(0, len(result.time_s) - 1, most).astype(np.int64))


def show_run(
    spread: SpreadResult, flies: Sequence[PlacedFly], mends_s: Sequence[float] = (), most: int = MOST_FRAMES
) -> dict[str, Any]:
    """Return a run, mended at `mends_s` [s], for the API, thinned to `most` moments."""
    result = spread.middle
    at = frames_of(result, most)
    across = result.fly_across_m
    side = side_of(result, mends_s)
    paths = []
    for k, placed in enumerate(flies):
        low, high = result.middle_depth_m(k)
        paths.append(
            {
                "name": placed.fly.name,
                "depth_m": numbers(result.fly_depth_m[k, at], 3),
                "distance_m": numbers(result.fly_distance_m[k, at], 3),
                "speed_mps": numbers(result.speed_mps(k)[at], 3),
                "across_m": [] if side is None else numbers(across[k, at], 3),
                "shallow_m": numbers(spread.shallow_m[k, at], 3),
                "deep_m": numbers(spread.deep_m[k, at], 3),
                "start_depth_m": round(result.start_depth_m(k), 3),
                "deepest_m": round(result.deepest_m(k), 3),
                "end_depth_m": round(result.hang_depth_m(k), 3),
                "low_m": round(low, 3),
                "high_m": round(high, 3),
                "settle_s": round(result.settle_s(k), 1),
                "contact_s": round(float(result.contact_s[k]), 1),
                "weed_s": round(float(result.weed_s[k]), 1),
                "layer_s": numbers(result.layer_s[k], 2),
            }
        )
    return {
        "time_s": numbers(result.time_s[at], 2),
        "phase": [PHASES[p] for p in result.phase[at]],
        "flies": paths,
        "thread_distance_m": np.round(result.thread_m[at, :, 0], 2).tolist(),
        "thread_depth_m": np.round(result.thread_m[at, :, 1], 2).tolist(),
        "thread_across_m": [] if side is None else np.round(result.thread_m[at, :, 2], 2).tolist(),
        "line_node": result.line_node,
        "float_node": result.float_node,
        "side": None if side is None else _show_side(side, at),
        "layer_m": LAYER_M,
        "plain_sum_m": round(result.plain_sum_m, 3),
        "indicator": None,
    }


def _show_side(side: Side, at: npt.NDArray[np.int64]) -> dict[str, Any]:
    return {
        "bow_m": numbers(side.bow_m[at], 2),
        "slack_m": numbers(side.slack_m[at], 2),
        "drag_mps": numbers(side.drag_mps[at], 3),
        "mend_at_s": None if side.mend_at_s is None else round(side.mend_at_s, 1),
        "recast_at_s": None if side.recast_at_s is None else round(side.recast_at_s, 1),
        "words": [show_phrase(phrase) for phrase in side.words],
    }


def show_action_run(rig: Rig, action: Action, spread: SpreadResult, water: Water, most: int = MOST_FRAMES) -> dict[str, Any]:
    """Return the run of a cast, a float or a tow; a float with what it carries and when to recast."""
    result = spread.middle
    shown = show_run(spread, rig.flies, action.mends_s, most)
    hung = action.drift_of(rig, result, water)
    if hung is not None:
        recast = result.dragged_s
        shown["indicator"] = {
            "load_n": round(hung.load_n, 5),
            "lift_n": round(hung.lift_n, 5),
            "carried": hung.carried,
            "shortfall_m": numbers(hung.shortfall_m, 2),
            "recast_after_s": None if recast is None else round(recast, 1),
        }
    return shown
