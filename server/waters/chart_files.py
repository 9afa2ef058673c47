"""Charts as files: GeoJSON, GPX, an NMEA log or CSV soundings in, GPX and GeoJSON out."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

import numpy as np
from django.db import transaction

from stillthread.api import (
    BadFile,
    DepthUnit,
    read_chart_geojson,
    read_marks_gpx,
    read_nmea_log,
    read_soundings_csv,
    soundings_of,
    write_chart_geojson,
    write_marks_gpx,
)
from stillthread.api import Mark as CoreMark
from waters.marks import core_marks, marks_of, save_mark
from waters.models import DepthMap, Mark, Water
from waters.outlines import outline_of
from waters.soundings import Soundings, change_chart, survey_points

MOST_BYTES = 25_000_000


def take_chart_file(
    water: Water, name: str, data: bytes, *, depth_unit: DepthUnit | None = None, epsg: int | None = None
) -> dict[str, Any]:
    """Take over what a file holds - GeoJSON, GPX, an NMEA log or CSV soundings - all of it or nothing."""
    start = data[:200].removeprefix(b"\xef\xbb\xbf").lstrip()
    report: dict[str, Any] = {"outline": False, "marks_added": 0, "marks_changed": 0, "soundings": 0, "spikes": 0, "notes": []}
    lonlat, depth = np.empty((0, 2)), np.empty(0)
    outline: dict[str, Any] | None = None
    marks: tuple[CoreMark, ...] = ()
    if start[:1] in {b"{", b"["}:
        chart = read_chart_geojson(data)
        lonlat, depth = chart.lonlat, chart.depth_m
        outline, marks = chart.outline, chart.marks
        report["outline"] = outline is not None
    elif start[:1] == b"<":
        marks = read_marks_gpx(data)
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
    added = Soundings(name, lonlat, depth) if len(depth) else None
    if outline is None and added is None:
        with transaction.atomic():
            _take_marks(water, marks, report)
        return report
    change_chart(water, outline=outline, added=added, also=lambda: _take_marks(water, marks, report))
    if added is not None:
        stored = DepthMap.objects.get(water=water)
        report["soundings"], report["spikes"] = len(depth), stored.spikes
        if stored.spikes:
            report["notes"].append(f"{stored.spikes} soundings broke with all about them: kept, and not followed.")
    return report


def _take_marks(water: Water, marks: tuple[CoreMark, ...], report: dict[str, Any]) -> None:
    outline = outline_of(water) if marks else None
    for one in marks:
        known = marks_of(water).filter(name=one.name).first()
        save_mark(mark=known or Mark(water=water), changes=asdict(one), outline=outline)
        report["marks_changed" if known else "marks_added"] += 1


def gpx_of(water: Water) -> bytes:
    return write_marks_gpx(core_marks(water))


def geojson_of(water: Water) -> bytes:
    """Return the whole chart, every sounding with it."""
    points = [survey_points(survey) for survey in water.surveys.all()]
    every = np.concatenate(points) if points else np.empty((0, 3))
    return write_chart_geojson(water.outline, core_marks(water), every[:, :2], every[:, 2])
