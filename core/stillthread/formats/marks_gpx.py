"""Marks as GPX waypoints, in and out."""

from __future__ import annotations

import re
from collections.abc import Sequence

import gpxpy
from gpxpy.gpx import GPX, GPXException, GPXWaypoint, GPXXMLSyntaxException

from stillthread.chart.marks import MARK_KINDS, Mark
from stillthread.errors import BadFile, StillthreadError

MOST_BYTES = 5_000_000  # ours: a bound
MOST_WAYPOINTS = 1_000  # ours: a bound
_DEPTH = re.compile(r"depth[_ ]?m?\s*[:=]\s*(\d+(?:[.,]\d+)?)", re.IGNORECASE)


def read_marks_gpx(data: bytes) -> tuple[Mark, ...]:
    """Return the waypoints of a GPX file; tracks and routes are passed over.

    The waypoint's type names the kind of mark where it is one that is known, its comment may hold "depth_m=4.2".

    Raises
    ------
    BadFile
        Not GPX, too large, no waypoint in it, or one outside the globe.
    """
    if len(data) > MOST_BYTES:
        raise BadFile(f"The file is larger than {MOST_BYTES // 1_000_000} MB. Send waypoints only.", field="gpx")
    try:
        text = data.decode("utf-8-sig")
        if "<!DOCTYPE" in text or "<!ENTITY" in text:
            raise BadFile("The file declares its own XML entities; such files are not read.", field="gpx")
        found = gpxpy.parse(text)
    except (UnicodeDecodeError, ValueError, GPXException, GPXXMLSyntaxException):
        raise BadFile("The file is not GPX.", field="gpx") from None
    if len(found.waypoints) > MOST_WAYPOINTS:
        raise BadFile(f"The file has more than {MOST_WAYPOINTS} waypoints.", field="gpx")
    if not found.waypoints:
        raise BadFile("The file has no waypoints; tracks and routes are not marks.", field="gpx")
    return tuple(_mark(waypoint, i) for i, waypoint in enumerate(found.waypoints, 1))


def _mark(waypoint: GPXWaypoint, number: int) -> Mark:
    name = (waypoint.name or f"Waypoint {number}").strip()[:80]
    kind = (waypoint.type or waypoint.symbol or "").strip().lower().replace(" ", "-")
    depth = _DEPTH.search(waypoint.comment or "")
    try:
        return Mark(
            name=name,
            kind_key=kind if kind in MARK_KINDS else "peg",
            latitude_deg=float(waypoint.latitude),
            longitude_deg=float(waypoint.longitude),
            depth_m=float(depth[1].replace(",", ".")) if depth else None,
            notes=(waypoint.description or "")[:2000],
        )
    except StillthreadError as error:
        raise BadFile(f"Waypoint {name!r}: {error.message}", field="gpx") from None


def write_marks_gpx(marks: Sequence[Mark]) -> bytes:
    """Return marks as GPX 1.1 waypoints that `read_marks_gpx` reads again."""
    gpx = GPX()
    gpx.creator = "Still Thread"
    for mark in marks:
        waypoint = GPXWaypoint(mark.latitude_deg, mark.longitude_deg, name=mark.name, description=mark.notes or None)
        waypoint.type = mark.kind_key
        waypoint.comment = None if mark.depth_m is None else f"depth_m={mark.depth_m:g}"
        gpx.waypoints.append(waypoint)
    return gpx.to_xml("1.1").encode()
