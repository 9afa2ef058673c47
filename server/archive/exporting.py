"""Write the archive of an account: all that the person has, as plain values, and the zip that holds them."""

from __future__ import annotations

import json
import zipfile
from collections import defaultdict
from collections.abc import Iterator
from datetime import datetime, timezone
from typing import IO, Any

import orjson
from django.db.models import Model
from lake.models import WeatherDay

from accounts.api import PreferencesOut
from accounts.models import Preferences, User
from archive.shapes import FORMAT, VERSION, json_schema
from box.models import Float, Fly, Leader, Line, Owned, Rod, Spool
from days.models import Catch, Change, Day, Entry, Photo, Presentation
from instruments.models import Instrument
from waters.models import Mark, Survey, Water
from waters.soundings import survey_points

Row = dict[str, Any]

FIELDS: dict[type[Model], tuple[str, ...]] = {
    Water: (
        "uid", "name", "latitude_deg", "longitude_deg", "altitude_m", "fetch_km", "usual_bottom_depth_m", "usual_secchi_m",
        "usual_fish_kg", "time_zone", "species", "stocked", "rules", "notes", "takes_factor", "outline",
    ),
    Mark: ("uid", "name", "kind_key", "latitude_deg", "longitude_deg", "depth_m", "notes"),
    Line: (
        "uid", "name", "class_key", "number", "sink_rate_mps", "calibrated", "rate_spread", "label_mps", "tip_m", "stretches",
        "looped",
    ),
    Leader: ("uid", "name", "sections", "hardware"),
    Fly: (
        "uid", "name", "imitates", "foods", "style", "left", "colour", "hook_size", "dressing", "wire", "bead", "bead_mm",
        "foam_mm3", "extra_g", "wetted", "measured_sink_mps",
    ),
    Rod: ("uid", "name", "length_m", "number"),
    Float: ("uid", "name", "kind", "diameter_m"),
    Spool: ("uid", "name", "material", "diameter_m"),
    Instrument: ("uid", "name", "host", "port", "on"),
    Day: ("id", "at", "device_at", "received_at", "notes"),
    Presentation: (
        "id", "started_at", "device_at", "received_at", "line", "leader", "flies", "action", "low_m", "high_m", "path_s",
        "path_depth_m", "path_spread_m", "told", "advice",
    ),
    Entry: (
        "id", "kind", "at", "device_at", "received_at", "cast_elapsed_s", "depth_low_m", "depth_high_m", "species", "length_m",
        "weight_kg", "kept", "played_s", "toward", "far", "fly_class", "fly", "phase", "colour",
        "hook_size", "pace", "undone_at",
    ),
    Catch: (
        "id", "at", "timed", "count", "species", "length_m", "weight_kg", "depth_m", "kept", "fly", "method", "notes",
    ),
    Photo: ("width_px", "height_px", "kept_at"),
}  # fmt: skip
BOX: dict[str, type[Owned]] = {"lines": Line, "leaders": Leader, "flies": Fly, "rods": Rod, "floats": Float, "spools": Spool}
TRIAL = ("id", "at", "depth_m", "elapsed_s", "water_c", "known_by", "undone_at")
READ_ME = """The log of one angler, as Still Thread keeps it.

archive.json        whose it is, from when, and how many of each there are
schema.json         what each file holds (JSON Schema)
box.json            lines, leaders, flies, rods, floats, spools
waters/*.json       one file to a water, with its outline, marks and what a weather station told
surveys/*.json      one file to a survey of a water's bottom
instruments/*.json  one file to an instrument, with what it measured
days/*.json         one file to a day, with all that was logged in it
photos/*.jpg        pictures, each under the id of its entry

All quantities are SI, named with their unit; all times carry their zone.
"""


def plain(row: Model) -> Row:
    """Return a row's own fields as they stand in the store."""
    return {name: getattr(row, name) for name in FIELDS[type(row)]}


def water_row(water: Water) -> Row:
    marks = [plain(mark) for mark in water.marks.order_by("uid")]
    told = WeatherDay.objects.filter(water=water, source=WeatherDay.STATION).order_by("on")
    weather = [{"on": one.on, "hours": one.hours} for one in told]
    # A water of which no station tells is written as it always was.
    return {**plain(water), "marks": marks, **({"weather": weather} if weather else {})}


def survey_row(survey: Survey) -> Row:
    points = survey_points(survey).ravel().tolist()
    return {"uid": survey.uid, "water": survey.water.uid, "name": survey.name, "made_at": survey.made_at, "points": points}


def box_row(owner: User) -> Row:
    box: Row = {}
    for name, kind in BOX.items():
        rows = kind._default_manager.filter(owner=owner).order_by("id")
        box[name] = [plain(row) for row in rows]
    trials: dict[Any, list[Row]] = defaultdict(list)
    for line in Line.objects.filter(owner=owner).prefetch_related("trials"):
        trials[line.uid] = [{name: getattr(trial, name) for name in TRIAL} for trial in line.trials.all()]
    for line_row in box["lines"]:
        line_row["trials"] = trials[line_row["uid"]]
    return box


def instrument_row(instrument: Instrument) -> Row:
    measured = instrument.measurements.order_by("id").values("at", "kind", "a", "b")
    return {**plain(instrument), "measurements": list(measured)}


def _elsewhere(conditions: Row) -> Row:
    """Return conditions without the number that the water has on this server only."""
    return {name: value for name, value in conditions.items() if name != "water_id"}


def day_row(day: Day) -> Row:
    entries: dict[Any, list[Row]] = defaultdict(list)
    photos = {photo.pk: photo for photo in Photo.objects.filter(entry__presentation__day=day).defer("jpeg")}
    for entry in Entry.objects.filter(presentation__day=day).order_by("at", "id"):
        photo = photos.get(entry.pk)
        entries[entry.presentation_id].append({**plain(entry), "photo": plain(photo) if photo else None})
    presentations = [
        {**plain(one), "conditions": _elsewhere(one.conditions), "entries": entries[one.pk]}
        for one in Presentation.objects.filter(day=day).order_by("started_at", "id")
    ]
    changes = [
        {"uid": one.uid, "at": one.at, "entry": one.entry_id, "before": one.before, "after": one.after}
        for one in Change.objects.filter(day=day).order_by("at", "id")
    ]
    return {
        **plain(day),
        "water": day.water.uid,
        "conditions": _elsewhere(day.conditions),
        "presentations": presentations,
        "changes": changes,
        "catches": [plain(one) for one in day.catches.order_by("at", "id")],
    }


def files_of(owner: User) -> Iterator[tuple[str, Row]]:
    """Yield the name and content of each JSON file but the head's, a file at a time."""
    yield "box.json", box_row(owner)
    for water in Water.objects.filter(owner=owner).order_by("uid"):
        yield f"waters/{water.uid}.json", water_row(water)
    for survey in Survey.objects.filter(water__owner=owner).select_related("water").order_by("uid").iterator(chunk_size=1):
        yield f"surveys/{survey.uid}.json", survey_row(survey)
    for instrument in Instrument.objects.filter(owner=owner).order_by("uid"):
        yield f"instruments/{instrument.uid}.json", instrument_row(instrument)
    for day in Day.objects.filter(owner=owner).select_related("water").order_by("at", "id").iterator(chunk_size=50):
        yield f"days/{day.pk}.json", day_row(day)


def head_row(owner: User, counts: dict[str, int], now: datetime) -> Row:
    preferences, _ = Preferences.objects.get_or_create(user=owner)
    return {
        "format": FORMAT,
        "version": VERSION,
        "written_at": now,
        "username": owner.username,
        "preferences": {name: getattr(preferences, name) for name in PreferencesOut.model_fields},
        "counts": counts,
    }


def counted(owner: User) -> dict[str, int]:
    return {
        "waters": Water.objects.filter(owner=owner).count(),
        "box": sum(kind._default_manager.filter(owner=owner).count() for kind in BOX.values()),
        "instruments": Instrument.objects.filter(owner=owner).count(),
        "days": Day.objects.filter(owner=owner).count(),
        "entries": Entry.objects.filter(presentation__day__owner=owner).count(),
        "catches": Catch.objects.filter(day__owner=owner).count(),
        "photos": Photo.objects.filter(entry__presentation__day__owner=owner).count(),
    }


def write_archive(owner: User, into: IO[bytes]) -> None:
    """Write the zip. Never more than one day or one picture of it is in memory."""
    now = datetime.now(timezone.utc)
    with zipfile.ZipFile(into, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as archive:

        def put(name: str, data: bytes, kind: int = zipfile.ZIP_DEFLATED) -> None:
            member = zipfile.ZipInfo(name, now.timetuple()[:6])
            member.external_attr = 0o644 << 16
            archive.writestr(member, data, kind)

        put("README.txt", READ_ME.encode())
        put("schema.json", json.dumps(json_schema(), indent=1).encode())
        put("archive.json", orjson.dumps(head_row(owner, counted(owner), now)))
        for name, row in files_of(owner):
            put(name, orjson.dumps(row))
        photos = Photo.objects.filter(entry__presentation__day__owner=owner).order_by("entry_id")
        for photo in photos.iterator(chunk_size=4):
            put(f"photos/{photo.pk}.jpg", bytes(photo.jpeg), zipfile.ZIP_STORED)
