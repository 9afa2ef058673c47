"""Routes: instruments, what they measure, and the forecast of a water."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from common.fields import Name
from common.job_limiter import jobs
from common.paging import Limit, Offset, page
from common.problems import Problem
from django.http import HttpRequest
from ninja import Field, File, Router, Schema, Status, UploadedFile

from accounts.people import person
from instruments import services
from instruments.models import Instrument
from stillthread.api import NMEA_MOST_BYTES, BadFile, read_nmea_log
from waters.chart_api import SurveyOut
from waters.models import Survey
from waters.services import water_of

router = Router(tags=["instruments"])

Kind = Literal["depth", "water", "wind", "position"]


class InstrumentIn(Schema):
    """Where an instrument sends NMEA 0183 over TCP; `on` while the app listens."""

    name: Name
    host: Annotated[str, Field(max_length=80)] = "127.0.0.1"
    port: Annotated[int, Field(ge=1, le=65535)]
    on: bool = True


class ValueOut(Schema):
    """`a` and `b`: depth [m]; water [C]; wind [m/s] and from [deg]; latitude and longitude [deg]."""

    kind: Kind
    at: datetime
    a: float
    b: float | None


class LoggedValueOut(Schema):
    kind: Kind
    a: float
    b: float | None


class InstrumentOut(InstrumentIn):
    """How the line fares, and the last value of each kind. `lost` counts connections lost, all of them taken up again."""

    id: int
    state: Literal["off", "connecting", "connected", "lost"]
    since: datetime | None
    why: str
    lost: int
    bad_checksums: int
    malformed: int
    stored: int
    last: list[ValueOut]


class InstrumentPage(Schema):
    items: list[InstrumentOut]
    count: int


class ValuePage(Schema):
    items: list[ValueOut]
    count: int


class SurveyOfIn(Schema):
    water_id: int


class ForecastHourOut(Schema):
    at: datetime
    wind_speed_mps: float
    wind_from_deg: float
    cloud_fraction: float
    air_c: float | None
    pressure_hpa: float | None


class ForecastOut(Schema):
    """`state`: fresh, late (the last that came, with why), or absent."""

    state: Literal["fresh", "late", "absent"]
    why: str
    fetched_at: datetime | None
    hours: list[ForecastHourOut]


class NmeaLogOut(Schema):
    """The last value of each kind in a log, and how many sentences were good or refused."""

    last: list[LoggedValueOut]
    good: int
    bad_checksums: int
    malformed: int


REFUSALS = {404: Problem, 409: Problem, 422: Problem}


@router.get("/instruments", operation_id="list_instruments", response=InstrumentPage)
def list_instruments(request: HttpRequest, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List your instruments with their last values."""
    found = page(services.instruments_of(person(request)), limit, offset)
    return {"items": [services.show_instrument(one) for one in found["items"]], "count": found["count"]}


@router.post("/instruments", operation_id="create_instrument", response={201: InstrumentOut, **REFUSALS})
def create_instrument(request: HttpRequest, payload: InstrumentIn) -> Status[dict[str, Any]]:
    """Add an instrument and listen to it."""
    instrument = services.save_instrument(instrument=Instrument(owner=person(request)), changes=payload.dict())
    return Status(201, services.show_instrument(instrument))


@router.put("/instruments/{instrument_id}", operation_id="update_instrument", response={200: InstrumentOut, **REFUSALS})
def update_instrument(request: HttpRequest, instrument_id: int, payload: InstrumentIn) -> dict[str, Any]:
    """Change an instrument; start or stop listening."""
    instrument = services.instrument_of(person(request), instrument_id)
    return services.show_instrument(services.save_instrument(instrument=instrument, changes=payload.dict()))


@router.delete("/instruments/{instrument_id}", operation_id="delete_instrument", response={204: None, 404: Problem})
def delete_instrument(request: HttpRequest, instrument_id: int) -> Status[None]:
    """Remove an instrument and what it measured; surveys made from it stay."""
    services.remove_instrument(services.instrument_of(person(request), instrument_id))
    return Status(204, None)


@router.get(
    "/instruments/{instrument_id}/measurements", operation_id="list_measurements", response={200: ValuePage, 404: Problem}
)
def list_measurements(request: HttpRequest, instrument_id: int, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List what an instrument measured, newest first."""
    return page(services.instrument_of(person(request), instrument_id).measurements.all(), limit, offset)


@router.post(
    "/instruments/{instrument_id}/surveys", operation_id="create_instrument_survey", response={201: SurveyOut, **REFUSALS}
)
def create_instrument_survey(request: HttpRequest, instrument_id: int, payload: SurveyOfIn) -> Status[Survey]:
    """Make soundings of a water out of the depths an instrument measured where the boat was."""
    owner = person(request)
    instrument, water = services.instrument_of(owner, instrument_id), water_of(owner, payload.water_id)
    return Status(201, jobs.do(owner.pk, object(), lambda: services.survey_from(instrument, water)))


@router.get("/waters/{water_id}/forecast", operation_id="get_forecast", response={200: ForecastOut, 404: Problem})
def get_forecast(request: HttpRequest, water_id: int) -> dict[str, Any]:
    """Show the forecast of a water, or why there is none."""
    return services.forecast_of(water_of(person(request), water_id))


@router.post("/nmea-logs", operation_id="create_nmea_log", response={200: NmeaLogOut, 422: Problem})
def create_nmea_log(request: HttpRequest, file: File[UploadedFile]) -> dict[str, Any]:
    """Read a log of NMEA 0183 sentences, at most 10 MB, and return the last value of each kind. Nothing is stored."""
    if (file.size or 0) > NMEA_MOST_BYTES:
        raise BadFile(f"The log is larger than {NMEA_MOST_BYTES // 1_000_000} MB. Split it.", field="log")
    data = file.read()
    log = jobs.do(person(request).pk, object(), lambda: read_nmea_log(data))
    last = (log.latest(kind) for kind in ("depth", "water", "wind", "position"))
    return {
        "last": [{"kind": one.kind, "a": one.a, "b": one.b} for one in last if one],
        "good": log.good,
        "bad_checksums": log.bad_checksums,
        "malformed": log.malformed,
    }
