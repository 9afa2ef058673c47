"""Outlines of waters: where they are kept, drawn and read."""

from __future__ import annotations

from common.problems import Refused

from stillthread.api import Outline, Plane, read_outline
from waters.models import Water


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
