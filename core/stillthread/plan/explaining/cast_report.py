"""What comes of one cast with a rig of the angler's own, in words, and why his sum and the simulation differ."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from stillthread.depth.picture import WaterPicture
from stillthread.phrase import Phrase
from stillthread.sinking.cast import LAYER_M, Cast, CastResult
from stillthread.tackle.rig import Rig

_SMALL_M = 0.15  # ours: less is within what a count knows
SNAGS = 0.05  # ours: less of a cast in weed or on the bottom is not worth a word
LEADS_MPS = 0.15  # ours: a fly that falls faster leads the line


@dataclass(frozen=True, slots=True)
class CastReport:
    """A cast told: its run, the seconds the point fly is in the likeliest band, and how long one lasts with the recast."""

    result: CastResult
    band_s: float
    cast_s: float
    reasons: tuple[Phrase, ...]
    sum_differs: Phrase


def cast_report(picture: WaterPicture, rig: Rig, cast: Cast, result: CastResult) -> CastReport:
    """Return what comes of a cast in words, weightiest first. What it is worth is the scorer's to say."""
    layers = LAYER_M * (np.arange(result.layer_s.shape[1]) + 0.5)
    inside = np.zeros(len(layers), dtype=np.bool_)
    for top, bottom in picture.belief.bands():
        inside |= (layers >= top) & (layers <= bottom + LAYER_M)
    band_s = float(result.layer_s[0] @ inside)
    fished_top, fished_bottom = _band_fished(picture, result)
    low, high = result.middle_depth_m()
    values = {"top_m": fished_top, "bottom_m": fished_bottom, "band_s": band_s, "cast_s": result.duration_s}
    reasons = [
        Phrase("In the band ({top_m} to {bottom_m}) for {band_s} of a {cast_s} cast.", values),
        _path_reason(low, high, result, picture, floats=rig.line.floats),
    ]
    snag_s = float(result.weed_s.max())
    if snag_s > SNAGS * result.duration_s:
        reasons.append(Phrase("In weed or on the bottom for {contact_s} a cast: expect snags.", {"contact_s": snag_s}))
    rate = rig.point_fly.sink_rate_mps()
    if rate < 0.0:
        reasons.append(Phrase("The buoyant fly rides above the line and rises on every pause."))
    elif rate > LEADS_MPS:
        reasons.append(Phrase("The weighted fly sinks {rate_mps} on its own and leads the line down.", {"rate_mps": rate}))
    cast_s = cast.cycle_s(result.duration_s)
    return CastReport(result, band_s, cast_s, tuple(reasons), why_the_sum_differs(rig, cast, result))


def _band_fished(picture: WaterPicture, result: CastResult) -> tuple[float, float]:
    """Return the run of the belief's band in which the point fly spends most time, or the likeliest if in none."""
    layers = LAYER_M * (np.arange(result.layer_s.shape[1]) + 0.5)

    def seconds(band: tuple[float, float]) -> float:
        return float(result.layer_s[0][(layers >= band[0]) & (layers <= band[1] + LAYER_M)].sum())

    fished = max(picture.belief.bands(), key=seconds)
    return fished if seconds(fished) > 0.0 else picture.belief.main_band


def _path_reason(low: float, high: float, result: CastResult, picture: WaterPicture, *, floats: bool) -> Phrase:
    deepest, start = result.deepest_m(), result.start_depth_m()
    if high - low < 0.5:
        return Phrase("Holds one level through the retrieve, {low_m} to {high_m}.", {"low_m": low, "high_m": high})
    if deepest - start > 0.5:
        if deepest > 0.97 * picture.conditions.bottom_depth_m:
            return Phrase(
                "Starts at {start_m} and goes on sinking to the bottom at {deepest_m}.",
                {"start_m": start, "deepest_m": deepest},
            )
        return Phrase(
            f"Starts at {{start_m}}; the pull is slower than the {'fly' if floats else 'line'} sinks, "
            "so it goes on down to {deepest_m}.",
            {"start_m": start, "deepest_m": deepest},
        )
    return Phrase("Starts at {start_m} and climbs all the way in.", {"start_m": start})


def why_the_sum_differs(rig: Rig, cast: Cast, result: CastResult) -> Phrase:
    """Return how the plain sum (rate x count) compares with the simulated fly, and why."""
    plain, start, line_end = result.plain_sum_m, result.start_depth_m(), result.line_end_depth_m
    values = {
        "plain_m": plain,
        "start_m": start,
        "line_m": line_end,
        "deepest_m": result.deepest_m(),
        "count_s": cast.count_s,
        "rate_mps": rig.line.sink_rate_mps,
    }
    if rig.line.floats:
        text = (
            "A floating line has no sum: the fly alone sinks, to {start_m} by the end of the count, {deepest_m} at its deepest."
        )
    elif start < plain - _SMALL_M and rig.point_fly.sink_rate_mps() < 0.0:
        text = "The sum says {plain_m}, which is about where the line is ({line_m}); the buoyant fly is held up at {start_m}."
    elif start < plain - _SMALL_M:
        text = (
            "The sum says {plain_m}. The line's end is at {line_m}, held back by the rod; "
            "the lighter fly hangs behind it at {start_m}."
        )
    elif start > plain + _SMALL_M:
        text = "The sum says {plain_m} for the line; the fly sinks faster on its own and is already at {start_m}."
    else:
        text = "The sum says {plain_m}, and the fly is there: {start_m}."
    if not rig.line.floats and result.deepest_m() > max(start, plain) + 0.3:
        text += " It does not stay: the slow pull lets it sink on to {deepest_m}."
    return Phrase(text, values)
