"""Surveys of soundings, and the bottom drawn from them and from an outline."""

from __future__ import annotations

import io
import zlib
from typing import Any

import numpy as np
from django.db import transaction
from django.shortcuts import get_object_or_404

from stillthread.chart.fetch import longest_fetch_m
from stillthread.chart.outline import read_outline
from stillthread.chart.soundings import DepthGrid, depth_grid_of
from stillthread.errors import BadInput, FloatArray
from waters.models import DepthMap, Survey, Water
from waters.outlines import outline_of, plane_of

MOST_SURVEYS = 50


def grid_of(water: Water) -> DepthGrid | None:
    stored = DepthMap.objects.filter(water=water).first()
    if stored is None:
        return None
    with np.load(io.BytesIO(bytes(stored.grid))) as arrays:
        depth = arrays["depth_m"].astype(np.float64)
        return DepthGrid(arrays["x_m"], arrays["y_m"], depth, stored.spikes)


@transaction.atomic
def set_outline(water: Water, geometry: dict[str, Any] | None, ring_m: list[tuple[float, float]] | None = None) -> Water:
    """Store, replace or take away a water's outline; the longest open stretch follows it, and the bottom is drawn anew."""
    if ring_m is not None:
        corners = plane_of(water).to_lonlat([*ring_m, ring_m[0]]).tolist()
        geometry = {"type": "Polygon", "coordinates": [corners]}
    if geometry is None:
        water.outline = None
    else:
        outline = read_outline(geometry, plane_of(water))
        # As it came, corner by corner: a way there and back through the plane would blur it a little each time.
        water.outline = {"type": geometry["type"], "coordinates": geometry["coordinates"]}
        water.fetch_km = round(float(np.clip(longest_fetch_m(outline) / 1000.0, 0.05, 100.0)), 2)
    water.save()
    draw_bottom(water)
    return water


def draw_bottom(water: Water) -> DepthGrid | None:
    """Draw the bottom from every survey, and store it."""
    DepthMap.objects.filter(water=water).delete()
    points = [survey_points(survey) for survey in water.surveys.all()]
    if not points:
        return None
    every = np.concatenate(points)
    grid = depth_grid_of(plane_of(water).to_xy(every[:, :2]), every[:, 2], outline_of(water))
    file = io.BytesIO()
    np.savez_compressed(file, x_m=grid.x_m, y_m=grid.y_m, depth_m=grid.depth_m.astype(np.float32))
    DepthMap.objects.create(water=water, grid=file.getvalue(), spikes=grid.spikes)
    return grid


def survey_points(survey: Survey) -> FloatArray:
    """Return longitude, latitude [deg] and depth [m], shape (n, 3)."""
    return np.frombuffer(zlib.decompress(bytes(survey.points)), dtype=np.float64).reshape(-1, 3)


@transaction.atomic
def add_survey(water: Water, name: str, lonlat: FloatArray, depth_m: FloatArray) -> Survey:
    """Store soundings and draw the bottom anew; nothing is stored when it can't be drawn."""
    if water.surveys.count() >= MOST_SURVEYS:
        raise BadInput(f"A water holds {MOST_SURVEYS} surveys. Remove one first.", field="soundings")
    packed = zlib.compress(np.column_stack((lonlat, depth_m)).astype(np.float64).tobytes(), 6)
    survey = Survey.objects.create(water=water, name=name[:80], count=len(depth_m), points=packed)
    draw_bottom(water)
    return survey


@transaction.atomic
def remove_survey(water: Water, survey_id: int) -> None:
    get_object_or_404(Survey, pk=survey_id, water=water).delete()
    draw_bottom(water)
