"""Surveys of soundings, and the bottom drawn from them and from an outline."""

from __future__ import annotations

import io
import zlib
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
from common.problems import Refused
from django.db import transaction
from django.shortcuts import get_object_or_404

from stillthread.api import (
    BadInput,
    DepthGrid,
    FloatArray,
    Hypsography,
    Outline,
    Plane,
    depth_grid_of,
    hypsography_of,
    longest_fetch_km,
    read_outline,
)
from waters.models import DepthMap, Survey, Water
from waters.outlines import plane_of

MOST_SURVEYS = 50
DRAWN_AGAIN = 4


def grid_of(water: Water) -> DepthGrid | None:
    stored = DepthMap.objects.filter(water=water).first() or _drawn_anew(water)
    if stored is None:
        return None
    return _unpacked(bytes(stored.grid), stored.spikes)


def hypsography_at(water: Water) -> Hypsography | None:
    """Return how much of a water lies at each depth, where its bottom is drawn."""
    stored = DepthMap.objects.filter(water=water).first()
    return None if stored is None else _shape_of(bytes(stored.grid))


@lru_cache(maxsize=64)
def _shape_of(grid: bytes) -> Hypsography | None:
    return hypsography_of(_unpacked(grid, 0))


def _unpacked(grid: bytes, spikes: int) -> DepthGrid:
    with np.load(io.BytesIO(grid)) as arrays:
        return DepthGrid(arrays["x_m"], arrays["y_m"], arrays["depth_m"].astype(np.float64), spikes)


def _drawn_anew(water: Water) -> DepthMap | None:
    """Draw the bottom where soundings came with an archive: a drawing is derived, and is not in it."""
    if not Survey.objects.filter(water=water).exists():
        return None
    change_chart(water)
    return DepthMap.objects.filter(water=water).first()


def packed(points: Sequence[float]) -> tuple[int, bytes]:
    """Return how many soundings these are, three numbers each, and the bytes that a survey keeps of them."""
    return len(points) // 3, zlib.compress(np.asarray(points, dtype=np.float64).tobytes(), 6)


@dataclass(frozen=True)
class Soundings:
    """What a survey adds: longitude and latitude [deg], shape (n, 2), and depth [m]."""

    name: str
    lonlat: FloatArray
    depth_m: FloatArray


@dataclass(frozen=True)
class _Seen:
    """The chart that a drawing was made from: while it stands, the drawing may be stored."""

    place_deg: tuple[float, float]
    outline: dict[str, Any] | None
    survey_ids: tuple[int, ...]


def change_chart(
    water: Water,
    *,
    outline: dict[str, Any] | None = None,
    clear_outline: bool = False,
    added: Soundings | None = None,
    removed_id: int | None = None,
    also: Callable[[], None] = lambda: None,
) -> Survey | None:
    """Store a changed outline and surveys with the bottom drawn from them, all of it or nothing; return what was added.

    The drawing may take seconds, and the store has one writer: it is made first, and stored with the change in a moment. `also`
    is done in that same transaction. Where another changed the chart meanwhile, it is drawn again.
    """
    changed = outline is not None or clear_outline
    for _ in range(DRAWN_AGAIN):
        seen = _seen(water.pk)
        if added is not None and len(seen.survey_ids) >= MOST_SURVEYS:
            raise BadInput(f"A water holds {MOST_SURVEYS} surveys. Remove one first.", field="soundings")
        shape = outline if changed else seen.outline
        read = read_outline(shape, plane_of(water)) if shape else None
        fetch_km = longest_fetch_km(read) if read is not None and changed else None
        points = [survey_points(s) for s in Survey.objects.filter(water=water) if s.pk != removed_id]
        if added is not None:
            points.append(np.column_stack((added.lonlat, added.depth_m)))
        drawn = _draw(points, plane_of(water), read)
        kept = (0, b"") if added is None else packed(points[-1].ravel().tolist())
        with transaction.atomic():
            Water.objects.select_for_update().only("pk").get(pk=water.pk)
            if _seen(water.pk) != seen:
                continue
            survey = None
            if changed:
                water.outline = shape
                water.fetch_km = water.fetch_km if fetch_km is None else fetch_km
                water.save(update_fields=["outline", "fetch_km"])
            if removed_id is not None:
                get_object_or_404(Survey, pk=removed_id, water=water).delete()
            if added is not None:
                survey = Survey.objects.create(water=water, name=added.name[:80], count=kept[0], points=kept[1])
            DepthMap.objects.filter(water=water).delete()
            if drawn is not None:
                DepthMap.objects.create(water=water, grid=drawn[0], spikes=drawn[1])
            also()
            return survey
    raise Refused(503, "busy", "This chart is being changed elsewhere all the time. Try again in a moment.")


def _seen(water_id: int) -> _Seen:
    latitude, longitude, outline = Water.objects.values_list("latitude_deg", "longitude_deg", "outline").get(pk=water_id)
    ids = Survey.objects.filter(water_id=water_id).order_by("pk").values_list("pk", flat=True)
    return _Seen((latitude, longitude), outline, tuple(ids))


def _draw(points: list[FloatArray], plane: Plane, outline: Outline | None) -> tuple[bytes, int] | None:
    if not points:
        return None
    every = np.concatenate(points)
    grid = depth_grid_of(plane.to_xy(every[:, :2]), every[:, 2], outline)
    file = io.BytesIO()
    np.savez_compressed(file, x_m=grid.x_m, y_m=grid.y_m, depth_m=grid.depth_m.astype(np.float32))
    return file.getvalue(), grid.spikes


def set_outline(water: Water, geometry: dict[str, Any] | None, ring_m: list[tuple[float, float]] | None = None) -> Water:
    """Store, replace or take away a water's outline; the longest open stretch follows it, and the bottom is drawn anew."""
    if ring_m is not None:
        corners = plane_of(water).to_lonlat([*ring_m, ring_m[0]]).tolist()
        geometry = {"type": "Polygon", "coordinates": [corners]}
    # As it came, corner by corner: a way there and back through the plane would blur it a little each time.
    kept = geometry and {name: geometry.get(name) for name in ("type", "coordinates")}
    change_chart(water, outline=kept, clear_outline=kept is None)
    return water


def survey_points(survey: Survey) -> FloatArray:
    """Return longitude, latitude [deg] and depth [m], shape (n, 3)."""
    return np.frombuffer(zlib.decompress(bytes(survey.points)), dtype=np.float64).reshape(-1, 3)


def add_survey(water: Water, name: str, lonlat: FloatArray, depth_m: FloatArray) -> Survey:
    """Store soundings and draw the bottom anew; nothing is stored when it can't be drawn."""
    survey = change_chart(water, added=Soundings(name, lonlat, depth_m))
    assert survey is not None
    return survey


def remove_survey(water: Water, survey_id: int) -> None:
    get_object_or_404(Survey, pk=survey_id, water=water)
    change_chart(water, removed_id=survey_id)
