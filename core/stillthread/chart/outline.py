"""The shore of a lake as a polygon, with its islands."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon, mapping, shape

from stillthread.chart.plane import Plane
from stillthread.errors import BadInput, FloatArray

MOST_VERTICES = 50_000  # ours: a bound on what is drawn
SMALLEST_M2 = 200.0  # ours: less is a puddle
LARGEST_M2 = 3.0e9  # ours: more is a sea
FARTHEST_FROM_WATER_M = 50_000.0  # ours: farther off it is another lake
FARTHEST_FROM_SHORE_M = 200.0  # ours: farther on land a mark is none of the water's
NUDGE_M = 3.0  # ours: a place on the shore line is taken this far in


@dataclass(frozen=True, slots=True)
class Outline:
    """A lake's shore on its plane; `water` is what is wet: one polygon or several, islands cut out [m]."""

    plane: Plane
    water: Polygon | MultiPolygon

    @property
    def area_m2(self) -> float:
        return float(self.water.area)

    @property
    def rings(self) -> list[FloatArray]:
        """Closed rings, shape (n, 2) each [m]: shores first, then islands."""
        parts = list(self.water.geoms) if isinstance(self.water, MultiPolygon) else [self.water]
        rings = [part.exterior for part in parts] + [hole for part in parts for hole in part.interiors]
        return [np.asarray(ring.coords)[:, :2] for ring in rings]

    def edges(self) -> tuple[FloatArray, FloatArray]:
        """Return the starts and ends, shape (n_edge, 2) each [m], of every stretch of shore."""
        rings = self.rings
        return np.concatenate([r[:-1] for r in rings]), np.concatenate([r[1:] for r in rings])

    def plainer(self, most_corners: int) -> Outline:
        """Return the outline with no more corners than that, moved by as little as it takes, at first by half a metre."""
        plain, by_m = self, 0.5
        while shapely.get_num_coordinates(plain.water) > most_corners:
            water = self.water.simplify(by_m)
            assert isinstance(water, Polygon | MultiPolygon)
            plain, by_m = Outline(self.plane, water), 2.0 * by_m
        return plain

    def to_geojson(self) -> dict[str, Any]:
        """Return the outline as a GeoJSON geometry in degrees."""
        degrees = shapely.transform(self.water, self.plane.to_lonlat)
        return {"type": degrees.geom_type, "coordinates": mapping(degrees)["coordinates"]}

    def in_water(self, xy: FloatArray) -> FloatArray:
        """Return a point in the water, shape (2,) [m]: the point itself, or the nearest just off the shore.

        Raises
        ------
        BadInput
            The point lies more than `FARTHEST_FROM_SHORE_M` from the water.
        """
        point = shapely.Point(xy)
        if self.water.contains(point):
            return np.asarray(xy, dtype=np.float64)
        away_m = float(self.water.distance(point))
        if away_m > FARTHEST_FROM_SHORE_M:
            far = f"{away_m:.0f} m" if away_m < 5000.0 else f"{away_m / 1000.0:.0f} km"
            raise BadInput(f"This point lies {far} from the water.", field="longitude_deg")
        shore = self.water.boundary.interpolate(self.water.boundary.project(point))
        around = [
            (shore.x + NUDGE_M * math.cos(a), shore.y + NUDGE_M * math.sin(a)) for a in np.linspace(0.0, 2.0 * math.pi, 17)[:-1]
        ]
        wet = [p for p in around if self.water.contains(shapely.Point(p))]
        inside = max(wet, key=lambda p: self.water.boundary.distance(shapely.Point(p)), default=None)
        return np.array(inside if inside else self.water.representative_point().coords[0])


def read_outline(geometry: Mapping[str, Any], near: Plane) -> Outline:
    """Return the outline that a GeoJSON Polygon or MultiPolygon draws, on the plane of the water it belongs to.

    Parameters
    ----------
    geometry : mapping
        GeoJSON geometry, longitude before latitude, WGS 84 [deg].
    near : Plane
        About the water's own place.

    Raises
    ------
    BadInput
        Not a polygon; too many corners; crossing itself (the message says where); with longitude and latitude swapped;
        far from the water; too small or too large for a lake.
    """
    kind = geometry.get("type")
    if not isinstance(kind, str) or kind not in {"Polygon", "MultiPolygon"}:
        named = kind[:40] if isinstance(kind, str) and kind else "nothing"
        raise BadInput(f"The outline is a {named}; a Polygon or MultiPolygon is needed.", field="outline")
    try:
        drawn = shapely.force_2d(shape(dict(geometry)))
    except (
        ValueError,
        TypeError,
        KeyError,
        IndexError,
        AttributeError,
        OverflowError,
        RecursionError,
        shapely.errors.ShapelyError,
    ):
        text = "The outline can't be read as a GeoJSON polygon: each ring needs four points or more."
        raise BadInput(text, field="outline") from None
    if drawn.is_empty:
        raise BadInput("The outline is empty.", field="outline")
    lonlat = shapely.get_coordinates(drawn)
    if len(lonlat) > MOST_VERTICES:
        raise BadInput(f"The outline has {len(lonlat)} corners; {MOST_VERTICES} are the most.", field="outline")
    _check_degrees(lonlat, near)
    if not drawn.is_valid:
        raise BadInput(_why_invalid(shapely.is_valid_reason(drawn)), field="outline")
    water = shapely.transform(drawn, near.to_xy)
    assert isinstance(water, Polygon | MultiPolygon)
    outline = Outline(near, water)
    _check_size(outline)
    away_m = float(water.distance(shapely.Point(0.0, 0.0)))
    if away_m > FARTHEST_FROM_WATER_M:
        text = f"The outline lies {away_m / 1000.0:.0f} km from the place given for this water. Correct one of them."
        raise BadInput(text, field="outline")
    return outline


def _check_degrees(lonlat: FloatArray, near: Plane) -> None:
    swapped = "Latitude and longitude look swapped: GeoJSON gives longitude first."
    if not np.isfinite(lonlat).all():
        raise BadInput("The outline has a coordinate that is no number.", field="outline")
    middle = lonlat.mean(axis=0)
    here = np.array([near.longitude_deg, near.latitude_deg])
    if np.abs(middle[::-1] - here).max() < 1.0 < np.abs(middle - here).max():
        raise BadInput(swapped, field="outline")
    if np.abs(lonlat[:, 1]).max() > 90.0 or np.abs(lonlat[:, 0]).max() > 180.0:
        fits = np.abs(lonlat[:, 0]).max() <= 90.0 and np.abs(lonlat[:, 1]).max() <= 180.0
        text = "The outline is not in degrees: longitude runs from -180 to 180, latitude from -90 to 90."
        raise BadInput(swapped if fits else text, field="outline")


def _why_invalid(reason: str) -> str:
    found = re.search(r"\[(\S+) (\S+)\]", reason)
    where = f" near {float(found[2]):.5f}, {float(found[1]):.5f} (latitude, longitude)" if found else ""
    if reason.startswith(("Self-intersection", "Ring Self-intersection")):
        return f"The outline crosses itself{where}. Move the corner there."
    return f"The outline is not a proper shape{where}: {reason.split('[')[0].lower()}."


def _check_size(outline: Outline) -> None:
    area = outline.area_m2
    if area < SMALLEST_M2:
        raise BadInput(f"An outline of {area:.0f} m2 is too small for a lake.", field="outline")
    if area > LARGEST_M2:
        text = (
            f"An outline of {area / 1e6:,.0f} km2 is too large; the most is {LARGEST_M2 / 1e6:,.0f} km2. Draw the arm you fish."
        )
        raise BadInput(text, field="outline")
