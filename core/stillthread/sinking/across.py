"""What side wind does to a presentation: how far the line bows, what a strike has to take up, when to mend and to recast."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from stillthread.errors import BadInput, FloatArray
from stillthread.phrase import Phrase
from stillthread.ranges import MEND_S, OFF_WIND_DEG, SURFACE_DRIFT_MPS, WIND_MPS
from stillthread.sinking import chain
from stillthread.sinking.result import CastResult
from stillthread.sinking.run import Water
from stillthread.sourced import Sourced
from stillthread.weather.wind import DRIFT_DECAY_M, SURFACE_DRIFT_SHARE

DRAGGED_MPS = Sourced(0.04, "m/s", "ours", "sideways pace of a fly that is left alone, from which it is seen to be dragged")
FLOAT_DRAGGED_MPS = Sourced(0.03, "m/s", "ours", "pace at which a line draws its float through the water")
STRIKE_M = Sourced(2.5, "m", "ours", "line that a rod of three metres takes up in one sweep and a pull")
MEND_SHARE = Sourced(0.08, "1", "ours", "bow, as a share of the line out, from which it is worth laying back")
LEAST_BOW_M = 0.6  # ours: what a rod lifts over in one movement is no bow yet
LEAST_FLOATING_M = 3.0  # ours: less floating line is nothing to mend
MOST_MENDS = 40  # ours: a bound


def driven(water: Water, wind_speed_mps: float, off_wind_deg: float) -> Water:
    """Return the water with the drift that a wind adds, seen from a cast.

    `off_wind_deg` is the angle between the cast and where the wind goes: 0 straight downwind, 90 across it, 180 into it.
    """
    WIND_MPS.check("wind_speed_mps", wind_speed_mps)
    OFF_WIND_DEG.check("off_wind_deg", off_wind_deg)
    if wind_speed_mps == 0.0:
        return water
    drift = float(SURFACE_DRIFT_SHARE) * wind_speed_mps
    along, across = drift * math.cos(math.radians(off_wind_deg)), drift * math.sin(math.radians(off_wind_deg))
    if across < 1e-6 * drift:
        across = 0.0
    within = SURFACE_DRIFT_MPS
    return replace(
        water,
        surface_drift_mps=min(max(water.surface_drift_mps + along, within.low), within.high),
        cross_drift_mps=min(max(water.cross_drift_mps + across, within.low), within.high),
    )


def check_mends(mends_s: Sequence[float]) -> None:
    """Raise where mends are too many, or not in their order."""
    if len(mends_s) > MOST_MENDS:
        raise BadInput(f"At most {MOST_MENDS} mends.", field="mends_s")
    for at_s in mends_s:
        MEND_S.check("mends_s", at_s)
    if any(b - a < 1.0 for a, b in itertools.pairwise(mends_s)):
        raise BadInput("Mends follow each other, a second or more apart.", field="mends_s")


def with_mends(program: FloatArray, mends_s: Sequence[float]) -> FloatArray:
    """Return the program with its pieces cut where the line is mended, through count and retrieve."""
    pieces: list[FloatArray] = []
    now, left = 0.0, list(mends_s)
    for piece in program:
        ends = now + piece[chain.FOR_S]
        begins, mends = now, 0.0
        while left and left[0] < ends - 1e-6 and piece[chain.PHASE] <= chain.RETRIEVING:
            at_s = left.pop(0)
            if at_s > begins + 1e-6:
                pieces.append(_part(piece, at_s - begins, mends))
            begins, mends = at_s, 1.0
        pieces.append(_part(piece, ends - begins, mends))
        now = ends
    return np.array(pieces)


def _part(piece: FloatArray, for_s: float, mends: float) -> FloatArray:
    part = piece.copy()
    part[chain.FOR_S], part[chain.MENDS] = for_s, mends
    return part


def bow_m(result: CastResult) -> FloatArray:
    """Return how far the thread lies off the straight line from the rod to the float or the point fly [m], seen from above,
    shape (n_time,)."""
    far = result.float_node or result.thread_m.shape[1] - 1
    x, y = result.thread_m[:, : far + 1, 0], result.thread_m[:, : far + 1, 2]
    cx, cy = x[:, far] - x[:, 0], y[:, far] - y[:, 0]
    off = (x - x[:, :1]) * cy[:, None] - (y - y[:, :1]) * cx[:, None]
    return np.asarray(np.abs(off).max(axis=1) / np.maximum(np.hypot(cx, cy), 0.3))


def slack_m(result: CastResult) -> FloatArray:
    """Return the thread that a strike has to take up before it moves the point fly, or the float [m], shape (n_time,): what is
    out beyond the straight way there."""
    far = result.float_node or result.thread_m.shape[1] - 1
    way = np.linalg.norm(result.thread_m[:, far] - result.thread_m[:, 0], axis=1)
    beyond = result.below_float_m if result.float_node else 0.0
    return np.asarray(np.maximum(result.out_m - beyond - way, 0.0))


def drag_mps(result: CastResult, fly: int = 0) -> FloatArray:
    """Return how fast a fly is dragged across the cast through its water [m/s], shape (n_time,); a drifting one is not."""
    if len(result.time_s) < 2:
        return np.zeros_like(result.time_s)
    across = np.diff(result.fly_across_m[fly]) / np.diff(result.time_s)
    share = (1.0 + result.back_share) * np.exp(-result.fly_depth_m[fly] / float(DRIFT_DECAY_M)) - result.back_share
    return np.asarray(np.append(across, across[-1]) - result.cross_drift_mps * share)


@dataclass(kw_only=True, frozen=True, slots=True)
class Side:
    """What goes on across a presentation: `bow_m`, `slack_m` and the point fly's `drag_mps`, (n_time,) each; when to mend first
    and when to recast [s], None where there is no need; and all of it in words."""

    bow_m: FloatArray
    slack_m: FloatArray
    drag_mps: FloatArray
    mend_at_s: float | None
    recast_at_s: float | None
    words: tuple[Phrase, ...]


def side_of(result: CastResult, mends_s: Sequence[float] = ()) -> Side | None:
    """Return what goes on across a presentation that was mended at `mends_s` [s], or None where nothing does."""
    if not result.sideways:
        return None
    bow, slack, drag = bow_m(result), slack_m(result), drag_mps(result)
    watched = result.phase <= chain.RETRIEVING
    at = int(np.argmax(np.where(watched, bow, -1.0)))
    first_mend_s = mends_s[0] if mends_s else mend_at_s(result)
    what = "float" if result.float_node else "fly"
    values = {"bow_m": float(bow[at]), "at_s": float(result.time_s[at]), "slack_m": float(slack[watched].max())}
    words = [Phrase("The wind bows the line by up to {bow_m}, at {at_s}.", values)]
    if values["slack_m"] > float(STRIKE_M):
        words.append(Phrase("A strike has up to {slack_m} to take up: sweep long and low, against the bow.", values))
    elif values["slack_m"] > 0.5:
        words.append(Phrase("A strike has up to {slack_m} to take up.", values))
    if len(mends_s) > 1:
        every = {"mend_s": mends_s[0], "every_s": mends_s[1] - mends_s[0]}
        words.append(Phrase("Mend at {mend_s}, and every {every_s} after: lay the floating line back upwind.", every))
    elif first_mend_s is not None:
        words.append(Phrase("Mend at {mend_s}: lay the floating line back upwind.", {"mend_s": first_mend_s}))
    if result.dragged_s is not None:
        dragged = {"recast_s": result.dragged_s}
        words.append(Phrase(f"From {{recast_s}} on the line drags the {what}: lift off and cast again.", dragged))
    elif watched.any() and not result.float_node and float(np.abs(drag[watched]).max()) > 0.01:
        words.append(Phrase("The fly goes sideways at up to {side_mps}.", {"side_mps": float(np.abs(drag[watched]).max())}))
    return Side(
        bow_m=bow, slack_m=slack, drag_mps=drag, mend_at_s=first_mend_s, recast_at_s=result.dragged_s, words=tuple(words)
    )


def mend_at_s(result: CastResult) -> float | None:
    """Return when the bow is first worth laying back [s]: before it drags, and while line enough floats; None if never."""
    watched = result.phase <= chain.RETRIEVING
    bow = bow_m(result)
    worth = (
        watched & (bow > np.maximum(float(MEND_SHARE) * result.out_m, LEAST_BOW_M)) & (floating_m(result) > LEAST_FLOATING_M)
    )
    if result.dragged_s is not None:
        worth &= result.time_s < result.dragged_s
    return float(result.time_s[int(np.argmax(worth))]) if worth.any() else None


def floating_m(result: CastResult) -> FloatArray:
    """Return how much line lies on the surface from the rod outward [m], shape (n_time,)."""
    far = result.float_node or result.line_node
    line = result.thread_m[:, : far + 1]
    afloat = np.cumprod(line[:, 1:, 1] < 0.06, axis=1)
    steps = np.linalg.norm(np.diff(line, axis=1), axis=2)
    return np.asarray((steps * afloat).sum(axis=1))
