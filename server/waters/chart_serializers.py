"""A chart, and what it says of a place under a wind, as the API shows them."""

from __future__ import annotations

from typing import Any

import numpy as np
from common.problems import Refused

from stillthread.api import (
    DepthGrid,
    FloatArray,
    Phrase,
    ShoreExposure,
    WaterPicture,
    Wind,
    drift_along_s,
    drop_offs,
    exposure_at,
    longest_fetch_km,
    section,
    shore_exposure,
    stand,
    wind_effects,
)
from waters.marks import MOST_MARKS, marks_of
from waters.models import Mark, Water
from waters.outlines import need_outline, outline_of, plane_of
from waters.soundings import grid_of

MOST_RING_POINTS = 4_000  # drawn on a screen; the stored outline keeps every corner


def show_chart(water: Water) -> dict[str, Any]:
    """Return the chart on its plane: metres east and north of the water's place."""
    outline, grid, plane = outline_of(water), grid_of(water), plane_of(water)
    marks = list(marks_of(water)[:MOST_MARKS])
    places = plane.to_xy([(m.longitude_deg, m.latitude_deg) for m in marks]) if marks else np.empty((0, 2))
    return {
        "rings": [_thinned(ring) for ring in outline.rings] if outline else [],
        "area_m2": outline.area_m2 if outline else None,
        "longest_fetch_km": longest_fetch_km(outline) if outline else None,
        "grid": _show_grid(grid) if grid else None,
        "drop_offs": [np.round(line, 1).tolist() for line in drop_offs(grid)[:40]] if grid else [],
        "soundings": sum(count for count in water.surveys.values_list("count", flat=True)),
        "spikes": grid.spikes if grid else 0,
        "marks": [show_mark(m) | {"x_m": float(x), "y_m": float(y)} for m, (x, y) in zip(marks, places, strict=True)],
    }


def _thinned(ring: FloatArray) -> list[list[float]]:
    every = -(-len(ring) // MOST_RING_POINTS)
    kept = ring if every == 1 else np.concatenate((ring[:-1:every], ring[-1:]))
    points: list[list[float]] = np.round(kept, 1).tolist()
    return points


def _show_grid(grid: DepthGrid) -> dict[str, Any]:
    depth = np.where(np.isnan(grid.depth_m), -1.0, grid.depth_m)
    return {
        "x_m": float(grid.x_m[0]),
        "y_m": float(grid.y_m[0]),
        "step_m": grid.step_m,
        "columns": len(grid.x_m),
        "depth_dm": np.round(10.0 * depth).astype(int).ravel().tolist(),
        "deepest_m": float(np.nanmax(grid.depth_m)),
    }


def show_mark(mark: Mark) -> dict[str, Any]:
    return {
        name: getattr(mark, name) for name in ("id", "name", "kind_key", "latitude_deg", "longitude_deg", "depth_m", "notes")
    }


def show_exposure(exposure: ShoreExposure) -> dict[str, Any]:
    return {
        "from_deg": exposure.from_deg,
        "fetch_m": round(exposure.fetch_m, 1),
        "wave_low_m": round(exposure.waves.low_m, 3),
        "wave_high_m": round(exposure.waves.high_m, 3),
        "word": exposure.word,
    }


def shores(water: Water, wind: Wind) -> list[dict[str, Any]]:
    return [
        {
            "x_m": round(float(shore.xy[0]), 1),
            "y_m": round(float(shore.xy[1]), 1),
            "kind": shore.kind,
            "fetch_m": round(shore.fetch_m, 1),
            "wave_high_m": round(shore.waves.high_m, 3),
        }
        for shore in shore_exposure(need_outline(water), wind.speed_mps, wind.from_deg)
    ]


def show_standing(water: Water, xy: FloatArray, wind: Wind, cast_m: float) -> dict[str, Any]:
    found = stand(need_outline(water), grid_of(water), xy, wind, cast_m)
    lon, lat = plane_of(water).to_lonlat(found.xy)[0].tolist()
    bearings, reach = found.rose
    return {
        "x_m": float(found.xy[0]),
        "y_m": float(found.xy[1]),
        "latitude_deg": round(lat, 7),
        "longitude_deg": round(lon, 7),
        "depth_m": None if found.depth_m is None else round(found.depth_m, 2),
        "now": show_exposure(found.now),
        "turned": [show_exposure(exposure) for exposure in found.turned],
        "rose_deg": bearings.tolist(),
        "rose_m": np.round(reach, 1).tolist(),
        "casts": [
            {"bearing_deg": c.bearing_deg, "far_depth_m": None if c.far_depth_m is None else round(c.far_depth_m, 2)}
            for c in found.casts
        ],
        "drift_m": round(found.drift_m, 1),
        "drift_s": found.drift_s,
        "drogue_s": found.drogue_s,
    }


def wind_at(water: Water, xy: FloatArray, picture: WaterPicture) -> list[Phrase]:
    """Return what the wind does at a place of the chart, in sentences."""
    outline, wind = need_outline(water), picture.conditions.wind
    here = exposure_at(outline, outline.in_water(xy), wind)
    effects = wind_effects(wind, max(here.fetch_m, 50.0), picture.profile, picture.layers, picture.conditions.hypsography)
    if wind.speed_mps < 1.0:
        return list(effects.notes)
    lies = Phrase(f"Where you stand: {here.word}, {{fetch_m}} of open water upwind.", {"fetch_m": here.fetch_m})
    return [lies, *effects.notes]


def show_section(water: Water, start: FloatArray, end: FloatArray, wind: Wind) -> dict[str, Any]:
    grid = grid_of(water)
    if grid is None:
        text = "No soundings yet: there is no bottom to cut through."
        raise Refused(422, "no_soundings", text, {"soundings": text})
    along, depth = section(grid, start, end)
    return {
        "distance_m": np.round(along, 1).tolist(),
        "depth_m": [None if np.isnan(d) else round(float(d), 2) for d in depth],
        "drift_s": drift_along_s(start, end, wind, drogue=False),
        "drogue_s": drift_along_s(start, end, wind, drogue=True),
    }
