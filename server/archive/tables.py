"""The log as tables and maps for other programs: CSV, GPX and iCalendar. SI units, named in the header."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import replace
from datetime import timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.utils import timezone

from accounts.models import User
from box.services import core_line
from days.models import Catch, Day, Entry, Presentation
from days.services import show_day
from stillthread.api import ENDS_CAST, FISH, Window, casts_of, fish_among, way_of, write_calendar, write_marks_gpx, write_table
from stillthread.api import Mark as CoreMark
from waters.marks import core_mark
from waters.models import Mark

READ = ("surface_c", "wind_speed_mps", "wind_from_deg", "cloud_fraction", "secchi_m", "bottom_depth_m")
DAYS = (
    "day_id",
    "date",
    "began_at",
    "water",
    *READ,
    "hours",
    "casts",
    "takes",
    "landed",
    "brought",
    "longest_m",
    "notes",
)
CASTS = (
    "day_id", "began_at", "water", "line", "way", "point_fly", "cast_m", "count_s", "retrieve", "set_depth_m", "in_water_s",
    "low_m", "high_m", "came_of_it",
)  # fmt: skip
CATCHES = (
    "day_id", "at", "water", "what", "count", "species", "length_m", "weight_kg", "kept", "low_m", "high_m", "line",
    "point_fly", "method", "notes", "from_another_log", "took_fly", "phase",
)  # fmt: skip
READINGS = ("day_id", "at", "water", "depth_m", "water_c", "oxygen_mgl")
MOST_WINDOWS = 50


def _days(owner: User) -> Iterator[Day]:
    yield from Day.objects.filter(owner=owner).select_related("water", "facts").order_by("at", "id").iterator(chunk_size=200)


def days_csv(owner: User) -> bytes:
    """Return a row to a day; what nobody read is empty."""
    return write_table(DAYS, map(_day_cells, _days(owner)))


def _day_cells(day: Day) -> list[Any]:
    shown = show_day(day)
    counts, read = shown["counts"], _read(day.conditions)
    takes = sum(counts.get(kind, 0) for kind in FISH)
    return [
        day.pk, day.at.astimezone(ZoneInfo(day.water.time_zone)).date(), day.at.isoformat(), day.water.name,
        *(read[name] for name in READ), shown["hours"], counts.get("cast", 0), takes, counts.get("landed", 0),
        counts.get("brought", 0), shown["longest_m"], day.notes,
    ]  # fmt: skip


def _read(conditions: dict[str, Any]) -> dict[str, Any]:
    """Return what was read of the water, and nothing of what was assumed."""
    top = min(conditions["readings"], key=lambda reading: reading["depth_m"])
    said = {**conditions, "surface_c": top["water_c"]}
    assumed = set(conditions.get("assumed") or ())
    return {name: None if name in assumed else said[name] for name in READ}


def casts_csv(owner: User) -> bytes:
    """Return a row to a cast, a float let drift or a tow: what was fished, for how long, and what came of it."""
    return write_table(CASTS, _cast_cells(owner))


def _fished(owner: User) -> Iterator[tuple[Presentation, list[Entry]]]:
    entries: dict[Any, list[Entry]] = defaultdict(list)
    for entry in Entry.objects.filter(presentation__day__owner=owner, undone_at=None).order_by("at", "id"):
        entries[entry.presentation_id].append(entry)
    rows = Presentation.objects.filter(day__owner=owner).select_related("day__water").order_by("started_at", "id")
    for one in rows.defer("path_depth_m", "path_spread_m", "told").iterator(chunk_size=200):
        yield one, entries[one.pk]


def _cast_cells(owner: User) -> Iterator[list[Any]]:
    for one, entries in _fished(owner):
        kinds = [entry.kind for entry in entries]
        at_s = [(entry.at - one.started_at).total_seconds() for entry in entries]
        action = one.action
        for i, lasted_s in casts_of(kinds, at_s, [entry.cast_elapsed_s for entry in entries], one.path_s[-1]):
            then = kinds[i + 1 :]
            ended = next((kind for kind in then if kind == "cast" or kind in ENDS_CAST), "cast")
            yield [
                one.day_id, entries[i].at.isoformat(), one.day.water.name, one.line["name"],
                way_of(core_line(one.line), action["kind"]), _point(one), action.get("cast_m"), action.get("count_s"),
                action.get("retrieve_key"), action.get("set_depth_m"), round(lasted_s, 1), one.low_m, one.high_m,
                "" if ended == "cast" else ended,
            ]  # fmt: skip


def _point(one: Presentation) -> str:
    return str(one.flies[0]["fly"]["name"]) if one.flies else ""


def _took(one: Presentation, fish: Entry) -> str:
    """Return the fly that a fish took; of a team nothing where nobody said which."""
    if fish.fly is None:
        return _point(one) if len(one.flies) == 1 else ""
    return str(one.flies[fish.fly]["fly"]["name"])


def catches_csv(owner: User) -> bytes:
    """Return a row to a fish that took, was lost or landed, and to those that came with another log."""
    return write_table(CATCHES, (*_own_catches(owner), *_others(owner)))


def _own_catches(owner: User) -> Iterator[list[Any]]:
    for one, entries in _fished(owner):
        for i in fish_among([entry.kind for entry in entries]):
            fish = entries[i]
            yield [
                one.day_id, fish.at.isoformat(), one.day.water.name, fish.kind, 1, fish.species, fish.length_m, fish.weight_kg,
                fish.kept, fish.depth_low_m, fish.depth_high_m, one.line["name"], _point(one),
                way_of(core_line(one.line), one.action["kind"]), "", False, _took(one, fish), fish.phase,
            ]  # fmt: skip


def _others(owner: User) -> Iterator[list[Any]]:
    for fish in Catch.objects.filter(day__owner=owner).select_related("day__water").order_by("at", "id"):
        yield [
            fish.day_id, fish.at.isoformat() if fish.timed else fish.at.date().isoformat(), fish.day.water.name, "landed",
            fish.count, fish.species, fish.length_m, fish.weight_kg, fish.kept, fish.depth_m, fish.depth_m, "", fish.fly,
            fish.method, fish.notes, True, fish.fly, "",
        ]  # fmt: skip


def readings_csv(owner: User) -> bytes:
    """Return a row to a reading: of the day's beginning, and of each time the water was read anew."""
    return write_table(READINGS, _reading_cells(owner))


def _reading_cells(owner: User) -> Iterator[list[Any]]:
    for day in _days(owner):
        told: set[tuple[Any, ...]] = set()
        for conditions in (day.conditions, *day.presentations.order_by("started_at").values_list("conditions", flat=True)):
            at = conditions.get("read_at_local") or conditions["at_local"]
            for reading in _measured(conditions):
                row = (at, *reading)
                if row not in told:
                    told.add(row)
                    yield [day.pk, at, day.water.name, *reading]


def _measured(conditions: dict[str, Any]) -> Iterator[tuple[float, float | None, float | None]]:
    unread = "surface_c" in (conditions.get("assumed") or ())
    for reading in conditions["readings"]:
        if not (unread and reading["depth_m"] == 0.0):
            yield reading["depth_m"], reading["water_c"], None
    for reading in conditions.get("oxygen") or ():
        yield reading["depth_m"], None, reading["oxygen_mgl"]


def places_gpx(owner: User) -> bytes:
    """Return every mark, and every place that was fished, as GPX waypoints."""
    marks = [
        replace(core_mark(mark), name=f"{mark.water.name}: {mark.name}"[:80])
        for mark in Mark.objects.filter(water__owner=owner).select_related("water").order_by("water__name", "name")
    ]
    seen: set[tuple[Any, ...]] = set()
    for day in _days(owner):
        for conditions in (day.conditions, *day.presentations.values_list("conditions", flat=True)):
            place = conditions.get("place")
            if place and (day.pk, *place.values()) not in seen:
                seen.add((day.pk, *place.values()))
                name = f"{day.water.name}, fished {day.at.astimezone(ZoneInfo(day.water.time_zone)):%Y-%m-%d}"[:80]
                marks.append(CoreMark(name=name, kind_key="peg", depth_m=conditions["bottom_depth_m"], **place))
    return write_marks_gpx(marks)


def days_ics(owner: User) -> bytes:
    """Return the days fished as a calendar."""
    windows = []
    for day in _days(owner):
        shown = show_day(day)
        hours = max(float(shown["hours"]), 1.0)
        landed = shown["counts"].get("landed", 0) + shown["counts"].get("brought", 0)
        title = f"{day.water.name}: {landed} landed"
        windows.append(Window(day.at, day.at + timedelta(hours=hours), title, day.notes, place=day.water.name))
    return write_calendar(windows, "", timezone.now(), most=len(windows))
