"""Keep charts: outlines, surveys and marks, and what the core draws from them."""

from __future__ import annotations

import io
import zlib
from dataclasses import asdict
from typing import Any

import numpy as np
from common.problems import Refused
from django.db import IntegrityError, transaction
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404

from stillthread.chart import shapes
from stillthread.chart.fetch import longest_fetch_m, shore_exposure
from stillthread.chart.marks import Mark as CoreMark
from stillthread.chart.outline import Outline, read_outline
from stillthread.chart.plane import Plane
from stillthread.chart.soundings import DepthGrid, depth_grid_of
from stillthread.chart.standing import Exposure, drift_along_s, exposure_at, stand
from stillthread.depth.picture import WaterPicture
from stillthread.errors import BadFile, BadInput, FloatArray
from stillthread.formats.chart_geojson import read_chart_geojson, write_chart_geojson
from stillthread.formats.marks_gpx import read_marks_gpx, write_marks_gpx
from stillthread.formats.nmea import read_nmea_log, soundings_of
from stillthread.formats.profile_csv import DepthUnit
from stillthread.formats.soundings_csv import read_soundings_csv
from stillthread.phrase import Phrase
from stillthread.weather.effects import wind_effects
from stillthread.weather.wind import Wind
from waters.models import DepthMap, Mark, Survey, Water

MOST_BYTES = 25_000_000
MOST_MARKS = 200
MOST_SURVEYS = 50
MOST_RING_POINTS = 4_000  # drawn on a screen; the stored outline keeps every corner


def plane_of(water: Water) -> Plane:
    return Plane(water.latitude_deg, water.longitude_deg)


def outline_of(water: Water) -> Outline | None:
    return read_outline(water.outline, plane_of(water)) if water.outline else None


def need_outline(water: Water) -> Outline:
    outline = outline_of(water)
    if outline is None:
        text = "This water has no outline yet. Draw it, or bring it in as GeoJSON."
        raise Refused(422, "no_outline", text, {"outline": text})
    return outline


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


def marks_of(water: Water) -> QuerySet[Mark]:
    return Mark.objects.filter(water=water)


def mark_of(water: Water, mark_id: int) -> Mark:
    return get_object_or_404(Mark, pk=mark_id, water=water)


def core_marks(water: Water) -> list[CoreMark]:
    return [
        CoreMark(m.name, m.kind_key, m.latitude_deg, m.longitude_deg, m.depth_m, m.notes) for m in marks_of(water)[:MOST_MARKS]
    ]


def save_mark(*, mark: Mark, changes: dict[str, Any]) -> Mark:
    """Store a new or changed mark; refuse one far from the water, or a name used before."""
    for name, value in changes.items():
        setattr(mark, name, value)
    CoreMark(mark.name, mark.kind_key, mark.latitude_deg, mark.longitude_deg, mark.depth_m, mark.notes)
    _check_near(mark.water, mark)
    if mark.pk is None and marks_of(mark.water).count() >= MOST_MARKS:
        raise BadInput(f"A water holds {MOST_MARKS} marks.", field="name")
    try:
        with transaction.atomic():
            mark.save()
    except IntegrityError:
        text = "This water has a mark of that name."
        raise Refused(409, "name_taken", text, {"name": text}) from None
    return mark


def _check_near(water: Water, mark: Mark) -> None:
    xy = plane_of(water).to_xy([mark.longitude_deg, mark.latitude_deg])[0]
    outline = outline_of(water)
    if outline is not None:
        outline.in_water(xy)
    elif float(np.linalg.norm(xy)) > 50_000.0:
        text = f"The mark lies {float(np.linalg.norm(xy)) / 1000.0:.0f} km from the water. Are latitude and longitude swapped?"
        raise BadInput(text, field="latitude_deg")


@transaction.atomic
def take_chart_file(
    water: Water, name: str, data: bytes, *, depth_unit: DepthUnit | None = None, epsg: int | None = None
) -> dict[str, Any]:
    """Take over what a file holds - GeoJSON, GPX, an NMEA log or CSV soundings - all of it or nothing."""
    start = data[:200].removeprefix(b"\xef\xbb\xbf").lstrip()
    report: dict[str, Any] = {"outline": False, "marks_added": 0, "marks_changed": 0, "soundings": 0, "spikes": 0, "notes": []}
    lonlat, depth = np.empty((0, 2)), np.empty(0)
    if start[:1] in {b"{", b"["}:
        chart = read_chart_geojson(data)
        lonlat, depth = chart.lonlat, chart.depth_m
        if chart.outline is not None:
            set_outline(water, chart.outline)
            report["outline"] = True
        _take_marks(water, chart.marks, report)
    elif start[:1] == b"<":
        _take_marks(water, read_marks_gpx(data), report)
    elif start[:1] in {b"$", b"!"}:
        log = read_nmea_log(data)
        found = soundings_of(log.measured)
        if len(found) < 3:
            raise BadFile("The log has no depths with positions: DPT or DBT after RMC or GGA.", field="log")
        lonlat = np.array([(s.longitude_deg, s.latitude_deg) for s in found])
        depth = np.array([s.depth_m for s in found])
        if log.bad_checksums or log.malformed:
            report["notes"].append(f"{log.bad_checksums} sentences had a wrong checksum, {log.malformed} could not be read.")
    else:
        soundings = read_soundings_csv(data, depth_unit=depth_unit, epsg=epsg)
        lonlat, depth = soundings.lonlat, soundings.depth_m
        if soundings.skipped:
            report["notes"].append(f"{soundings.skipped} rows had no depth and were passed over.")
    if len(depth):
        add_survey(water, name, lonlat, depth)
        stored = DepthMap.objects.get(water=water)
        report["soundings"], report["spikes"] = len(depth), stored.spikes
        if stored.spikes:
            report["notes"].append(f"{stored.spikes} soundings broke with all about them: kept, and not followed.")
    return report


def _take_marks(water: Water, marks: tuple[CoreMark, ...], report: dict[str, Any]) -> None:
    for one in marks:
        known = marks_of(water).filter(name=one.name).first()
        save_mark(mark=known or Mark(water=water), changes=asdict(one))
        report["marks_changed" if known else "marks_added"] += 1


def gpx_of(water: Water) -> bytes:
    return write_marks_gpx(core_marks(water))


def geojson_of(water: Water) -> bytes:
    """Return the whole chart, every sounding with it."""
    points = [survey_points(survey) for survey in water.surveys.all()]
    every = np.concatenate(points) if points else np.empty((0, 3))
    return write_chart_geojson(water.outline, core_marks(water), every[:, :2], every[:, 2])


def show_chart(water: Water) -> dict[str, Any]:
    """Return the chart on its plane: metres east and north of the water's place."""
    outline, grid, plane = outline_of(water), grid_of(water), plane_of(water)
    marks = list(marks_of(water)[:MOST_MARKS])
    places = plane.to_xy([(m.longitude_deg, m.latitude_deg) for m in marks]) if marks else np.empty((0, 2))
    return {
        "rings": [_thinned(ring) for ring in outline.rings] if outline else [],
        "area_m2": outline.area_m2 if outline else None,
        "grid": _show_grid(grid) if grid else None,
        "drop_offs": [np.round(line, 1).tolist() for line in shapes.drop_offs(grid)[:40]] if grid else [],
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


def show_exposure(exposure: Exposure) -> dict[str, Any]:
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
        for shore in shore_exposure(need_outline(water), wind.speed_ms, wind.from_deg)
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
    effects = wind_effects(wind, max(here.fetch_m, 50.0), picture.profile, picture.layers)
    if wind.speed_ms < 1.0:
        return list(effects.notes)
    lies = Phrase(f"Where you stand: {here.word}, {{fetch_m}} of open water upwind.", {"fetch_m": here.fetch_m})
    return [lies, *effects.notes]


def show_section(water: Water, start: FloatArray, end: FloatArray, wind: Wind) -> dict[str, Any]:
    grid = grid_of(water)
    if grid is None:
        text = "No soundings yet: there is no bottom to cut through."
        raise Refused(422, "no_soundings", text, {"soundings": text})
    along, depth = shapes.section(grid, start, end)
    return {
        "distance_m": np.round(along, 1).tolist(),
        "depth_m": [None if np.isnan(d) else round(float(d), 2) for d in depth],
        "drift_s": drift_along_s(start, end, wind, drogue=False),
        "drogue_s": drift_along_s(start, end, wind, drogue=True),
    }
