"""Charts as GeoJSON: the outline, soundings, contours and marks of a lake, in and out."""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence
from typing import Any, NamedTuple

import numpy as np

from stillthread.chart.marks import MARK_KINDS, Mark
from stillthread.chart.soundings import MOST_SOUNDINGS, check_soundings
from stillthread.errors import BadFile, FloatArray, StillthreadError

MOST_BYTES = 25_000_000  # ours: a bound
_DEPTH_NAMES = ("depth_m", "depth", "tiefe", "dybde", "djup", "profundidad", "z")
_FEET_NAMES = ("depth_ft", "depth_feet")


class ChartFile(NamedTuple):
    """What a file held: `outline` a GeoJSON geometry or None, `lonlat` (n, 2) and `depth_m` (n,) of soundings and contours."""

    outline: dict[str, Any] | None
    lonlat: FloatArray
    depth_m: FloatArray
    marks: tuple[Mark, ...]


def read_chart_geojson(data: bytes) -> ChartFile:
    """Return outline, soundings and marks of a GeoJSON file.

    Polygons are the outline (several become one MultiPolygon), points and lines with a depth are soundings and contours,
    points with a name are marks.

    Raises
    ------
    BadFile
        Not GeoJSON, too large, or nothing in it that a chart has.
    BadInput
        Depths that can't be.
    """
    if len(data) > MOST_BYTES:
        raise BadFile(f"The file is larger than {MOST_BYTES // 1_000_000} MB. Thin it first.", field="chart")
    try:
        found = json.loads(data.decode("utf-8-sig"))
    except (UnicodeDecodeError, ValueError, RecursionError):
        raise BadFile("The file is not GeoJSON: it is no JSON at all.", field="chart") from None
    polygons: list[Any] = []
    places: list[tuple[float, float]] = []
    depths: list[float] = []
    marks: list[Mark] = []
    for geometry, properties in _flat(found):
        kind, coordinates = geometry.get("type"), geometry.get("coordinates")
        depth = _depth(properties)
        try:
            if kind == "Polygon":
                polygons.append(coordinates)
            elif kind == "MultiPolygon":
                polygons.extend(coordinates or [])
            elif kind == "Point" and properties.get("name"):
                marks.append(_mark(coordinates, properties, depth))
            elif kind in {"Point", "MultiPoint", "LineString", "MultiLineString"}:
                for point in _points(coordinates):
                    at = depth if depth is not None else point[2] if len(point) > 2 else None
                    if at is not None:
                        places.append((float(point[0]), float(point[1])))
                        depths.append(float(at))
        except (TypeError, ValueError, IndexError, KeyError, OverflowError, RecursionError):
            raise BadFile(f"A {kind} in the file has coordinates that can't be read.", field="chart") from None
        if len(places) > MOST_SOUNDINGS:
            raise BadFile(f"The file has more than {MOST_SOUNDINGS} soundings. Thin it first.", field="chart")
    if not polygons and not places and not marks:
        raise BadFile("The file has no polygon, no point with a depth and no named point.", field="chart")
    outline = None
    if polygons:
        one = len(polygons) == 1
        outline = {"type": "Polygon" if one else "MultiPolygon", "coordinates": polygons[0] if one else polygons}
    lonlat, depth_m = np.array(places, dtype=np.float64).reshape(-1, 2), np.array(depths, dtype=np.float64)
    if len(depth_m):
        depth_m = check_soundings(depth_m)
        if not np.isfinite(lonlat).all() or np.abs(lonlat[:, 0]).max() > 180.0 or np.abs(lonlat[:, 1]).max() > 90.0:
            raise BadFile("Soundings in GeoJSON are in degrees, longitude first.", field="chart")
    return ChartFile(outline, lonlat, depth_m, tuple(marks))


def _flat(found: Any) -> Iterator[tuple[dict[str, Any], dict[str, Any]]]:
    try:
        yield from _features(found)
    except RecursionError:
        raise BadFile("The file is nested too deep to be a chart.", field="chart") from None


def _features(found: Any) -> Iterator[tuple[dict[str, Any], dict[str, Any]]]:
    """Yield (geometry, properties) of whatever a GeoJSON value holds."""
    kind = found.get("type") if isinstance(found, dict) else None
    kind = kind if isinstance(kind, str) else None
    if kind == "FeatureCollection" and isinstance(found.get("features"), list):
        for feature in found["features"]:
            yield from _features(feature)
    elif kind == "Feature":
        properties = found.get("properties")
        if isinstance(found.get("geometry"), dict):
            yield found["geometry"], properties if isinstance(properties, dict) else {}
    elif kind == "GeometryCollection" and isinstance(found.get("geometries"), list):
        for geometry in found["geometries"]:
            yield from _features(geometry)
    elif kind in {"Point", "MultiPoint", "LineString", "MultiLineString", "Polygon", "MultiPolygon"}:
        yield found, {}
    else:
        raise BadFile("The file is not GeoJSON: a FeatureCollection, Feature or geometry is needed.", field="chart")


def _depth(properties: dict[str, Any]) -> float | None:
    named = {str(key).lower(): value for key, value in properties.items()}
    for names, factor in ((_DEPTH_NAMES, 1.0), (_FEET_NAMES, 0.3048)):
        for name in names:
            value = named.get(name)
            if isinstance(value, int | float) and not isinstance(value, bool):
                return factor * float(value)
    return None


def _points(coordinates: Any) -> Iterator[Sequence[float]]:
    """Yield the positions of coordinates nested to any depth."""
    if coordinates and isinstance(coordinates[0], list):
        for part in coordinates:
            yield from _points(part)
    else:
        yield coordinates


def _mark(coordinates: Any, properties: dict[str, Any], depth_m: float | None) -> Mark:
    kind = str(properties.get("kind", properties.get("type", "")))
    name = str(properties["name"])[:80]
    try:
        return Mark(
            name=name,
            kind_key=kind if kind in MARK_KINDS else "peg",
            latitude_deg=float(coordinates[1]),
            longitude_deg=float(coordinates[0]),
            depth_m=depth_m,
            notes=str(properties.get("notes", ""))[:2000],
        )
    except StillthreadError as error:
        raise BadFile(f"Mark {name!r}: {error.message}", field="chart") from None


def write_chart_geojson(
    outline: dict[str, Any] | None, marks: Sequence[Mark], lonlat: FloatArray, depth_m: FloatArray
) -> bytes:
    """Return outline, marks and soundings as one GeoJSON FeatureCollection that `read_chart_geojson` reads again."""
    features: list[dict[str, Any]] = []
    if outline:
        features.append({"type": "Feature", "properties": {"kind": "outline"}, "geometry": outline})
    for mark in marks:
        properties: dict[str, Any] = {"name": mark.name, "kind": mark.kind_key, "notes": mark.notes}
        if mark.depth_m is not None:
            properties["depth_m"] = mark.depth_m
        point = {"type": "Point", "coordinates": [mark.longitude_deg, mark.latitude_deg]}
        features.append({"type": "Feature", "properties": properties, "geometry": point})
    for (lon, lat), depth in zip(lonlat.tolist(), depth_m.tolist(), strict=True):
        point = {"type": "Point", "coordinates": [lon, lat]}
        features.append({"type": "Feature", "properties": {"depth_m": depth}, "geometry": point})
    return json.dumps({"type": "FeatureCollection", "features": features}, ensure_ascii=False).encode()
