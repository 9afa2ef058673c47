"""Routes: the log as tables and maps for other programs, and other people's logs in."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict
from hashlib import sha256
from typing import Annotated, Any, Literal

from common.job_limiter import jobs
from common.problems import Problem
from common.throttles import AtMost
from django.http import HttpRequest, HttpResponse
from ninja import Field, Router, Schema
from pydantic import StringConstraints

from accounts.models import User
from accounts.people import person
from archive import tables
from archive.others import bring
from stillthread.api import ASKED, look_at_log

router = Router(tags=["tables"])
TABLES = AtMost("60/h", group="archives")
LOOKS = AtMost("120/h", group="other-logs")
Asked = Literal[
    "date", "time", "water", "species", "count", "length", "weight", "depth", "water_c", "wind", "kept", "fly", "method",
    "notes",
]  # fmt: skip
Unit = Annotated[str, Field(max_length=8)]


class OtherLogIn(Schema):
    """Another's log, as the text of a CSV file."""

    text: Annotated[str, StringConstraints(min_length=1, max_length=2_000_000)]


class OtherColumnOut(Schema):
    """A column: what it probably is, in which unit and which it may have, and what stands in it first."""

    header: str
    guess: Asked | None
    unit: str | None
    units: list[str]
    samples: list[str]


class OtherColumnsOut(Schema):
    """`day_first`: whether 3/4 is the third of April. `units` are those that each thing may be in."""

    columns: list[OtherColumnOut]
    units: dict[Asked, list[str]]
    rows: int
    day_first: bool


class BringIn(OtherLogIn):
    """What stands in which column (from 0), in which unit; which water a name of the log is, and which rows without are of."""

    mapping: dict[Asked, Annotated[int, Field(ge=0, le=500)]]
    units: dict[Asked, Unit] = {}
    day_first: bool = True
    water_id: int | None = None
    waters: Annotated[dict[Annotated[str, Field(max_length=80)], int], Field(max_length=200)] = {}


class BringTakeIn(BringIn):
    leave_out: bool = False


class RowFaultOut(Schema):
    line: int
    why: str


class BroughtOut(Schema):
    """What a log brings. `faults` are the first fifty rows that can't be taken."""

    days_new: int
    days_here: int
    fish_new: int
    fish_here: int
    refused: int
    faults: list[RowFaultOut]
    unknown_waters: list[str]


def _file(request: HttpRequest, make: Callable[[User], bytes], kind: str, name: str) -> HttpResponse:
    owner = person(request)
    data = jobs.do(owner.pk, name, lambda: make(owner))
    return HttpResponse(data, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


@router.get("/days.csv", operation_id="export_days", throttle=TABLES, response={200: None})
def export_days(request: HttpRequest) -> HttpResponse:
    """Give a row to a day."""
    return _file(request, tables.days_csv, "text/csv; charset=utf-8", "days.csv")


@router.get("/casts.csv", operation_id="export_casts", throttle=TABLES, response={200: None})
def export_casts(request: HttpRequest) -> HttpResponse:
    """Give a row to a cast."""
    return _file(request, tables.casts_csv, "text/csv; charset=utf-8", "casts.csv")


@router.get("/catches.csv", operation_id="export_catches", throttle=TABLES, response={200: None})
def export_catches(request: HttpRequest) -> HttpResponse:
    """Give a row to a fish."""
    return _file(request, tables.catches_csv, "text/csv; charset=utf-8", "catches.csv")


@router.get("/readings.csv", operation_id="export_readings", throttle=TABLES, response={200: None})
def export_readings(request: HttpRequest) -> HttpResponse:
    """Give a row to a reading of temperature or oxygen."""
    return _file(request, tables.readings_csv, "text/csv; charset=utf-8", "readings.csv")


@router.get("/places.gpx", operation_id="export_places", throttle=TABLES, response={200: None})
def export_places(request: HttpRequest) -> HttpResponse:
    """Give every mark, and every place that was fished, as GPX waypoints."""
    return _file(request, tables.places_gpx, "application/gpx+xml", "places.gpx")


@router.get("/days.ics", operation_id="export_calendar", throttle=TABLES, response={200: None})
def export_calendar(request: HttpRequest) -> HttpResponse:
    """Give the days fished as a calendar."""
    return _file(request, tables.days_ics, "text/calendar; charset=utf-8", "days.ics")


@router.post(
    "/other-logs/looks", operation_id="look_at_other_log", throttle=LOOKS, response={200: OtherColumnsOut, 422: Problem}
)
def look_at_other_log(request: HttpRequest, payload: OtherLogIn) -> dict[str, Any]:
    """Say what the columns of another's log probably are; nothing is stored."""
    owner = person(request)
    text = payload.text.encode()
    found = jobs.do(owner.pk, ("look at log", sha256(text).digest()), lambda: look_at_log(text))
    columns = [{**asdict(one), "units": list(ASKED[one.guess].units) if one.guess else []} for one in found.columns]
    units = {key: list(asked.units) for key, asked in ASKED.items() if asked.units}
    return {"columns": columns, "units": units, "rows": found.count, "day_first": found.day_first}


def _brought(request: HttpRequest, payload: BringIn, *, store: bool, leave_out: bool = False) -> dict[str, Any]:
    owner = person(request)
    how: dict[str, Any] = payload.dict(include={"mapping", "units", "day_first", "water_id", "waters"})

    def work() -> dict[str, Any]:
        return asdict(bring(owner, payload.text.encode(), **how, store=store, leave_out=leave_out))

    # Keyed by all that it is: two files at once are two answers, and a write answers for no other.
    return jobs.do(owner.pk, ("other log", store, leave_out, sha256(payload.model_dump_json().encode()).digest()), work)


@router.post("/other-logs/previews", operation_id="preview_other_log", throttle=LOOKS, response={200: BroughtOut, 422: Problem})
def preview_other_log(request: HttpRequest, payload: BringIn) -> dict[str, Any]:
    """Say what another's log would bring; nothing is stored."""
    return _brought(request, payload, store=False)


@router.post(
    "/other-logs/takes", operation_id="take_other_log", throttle=LOOKS, response={200: BroughtOut, 409: Problem, 422: Problem}
)
def take_other_log(request: HttpRequest, payload: BringTakeIn) -> dict[str, Any]:
    """Bring another's log in: days and fish beside one's own. The same file twice is once."""
    return _brought(request, payload, store=True, leave_out=payload.leave_out)
