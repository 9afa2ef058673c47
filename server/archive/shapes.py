"""The archive of a person's account: what each file in it holds. The published JSON Schema is made from these.

What was logged is kept as it was sent: it is checked by the shape it had, and stays as it is.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, datetime
from typing import Annotated, Any, Literal, TypeVar
from uuid import UUID

from common.fields import Name, Notes, within
from common.trade_keys import EntryKey
from lake.weather import MOST_STATION_DAYS
from lookback.schemas import TrialIn
from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, JsonValue, StringConstraints, WrapValidator, model_validator
from pydantic.json_schema import models_json_schema

from accounts.api import PreferencesOut
from advice.action_schemas import ActionIn, PlacedFlyIn
from advice.condition_schemas import ConditionsIn
from box.schemas import (
    FloatItemIn,
    FlyItemIn,
    HardwareIn,
    LeaderIn,
    LeaderSectionIn,
    LineIn,
    LineItemIn,
    RodIn,
    SpoolIn,
    StretchIn,
)
from days.schemas import AdviceIn
from instruments.api import Kind as MeasuredKind
from stillthread.api import (
    CAST_ELAPSED_S,
    CAST_TOWARD,
    DEPTH_M,
    FISH_LENGTH_M,
    FISH_WEIGHT_KG,
    LATITUDE_DEG,
    LONGITUDE_DEG,
    PLAYED_S,
    RATE_SPREAD,
    SINK_RATE_MPS,
    WEATHER_LIMITS,
)
from waters.api import RulesIn, WaterIn

FORMAT, VERSION = "still-thread-archive", 4
MOST_ROWS = 20_000  # of one kind in one file: more is no day's fishing
MOST_MEASUREMENTS = 400_000
T = TypeVar("T")


def _nothing_more(said: Any, read: Any, path: str = "") -> None:
    """Refuse what is said and not read: a name that nobody knows would be kept for good, however much stands under it."""
    if isinstance(said, dict) and isinstance(read, dict):
        for name, value in said.items():
            if name not in read:
                raise ValueError(f"nobody knows what {f'{path}.{name}' if path else name} is"[:200])
            _nothing_more(value, read[name], f"{path}.{name}" if path else name)
    elif isinstance(said, list) and isinstance(read, list):
        for i, (one, other) in enumerate(zip(said, read, strict=False)):
            _nothing_more(one, other, f"{path}.{i}")


def _kept_as_said(value: Any, handler: Callable[[Any], Any]) -> Any:
    read = handler(value)
    if isinstance(read, BaseModel):
        _nothing_more(value, read.model_dump())
    return value


_as_it_is = WrapValidator(_kept_as_said)
Label = Annotated[str, StringConstraints(max_length=80)]


class Row(BaseModel):
    """One thing; nothing in it that is not said here."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class HeadRow(Row):
    """`archive.json`: whose it is and from when, what is in it, and the units and look they chose."""

    format: Literal["still-thread-archive"]
    version: Literal[1, 2, 3, 4]
    written_at: AwareDatetime
    username: Annotated[str, Field(max_length=150)]
    preferences: Annotated[PreferencesOut, _as_it_is]
    counts: dict[Annotated[str, Field(max_length=24)], Annotated[int, Field(ge=0)]]


class MarkRow(Row):
    uid: UUID
    name: Name
    kind_key: Annotated[str, Field(max_length=16)]
    latitude_deg: Annotated[float, within(LATITUDE_DEG)]
    longitude_deg: Annotated[float, within(LONGITUDE_DEG)]
    depth_m: Annotated[float | None, within(DEPTH_M)]
    notes: Notes


class SurveyRow(Row):
    """`surveys/<uid>.json`: soundings of a water.

    `points` are longitude, latitude [deg] and depth [m], three numbers each, one after the other.
    """

    uid: UUID
    water: UUID
    name: Label
    made_at: AwareDatetime
    points: Annotated[list[float], Field(max_length=3 * 400_000)]

    @model_validator(mode="after")
    def _in_threes(self) -> SurveyRow:
        if not self.points or len(self.points) % 3:
            raise ValueError("soundings are longitude, latitude and depth, three numbers each")
        ranges = (LONGITUDE_DEG, LATITUDE_DEG, DEPTH_M)
        if any(not ranges[i % 3].low <= value <= ranges[i % 3].high for i, value in enumerate(self.points)):
            raise ValueError("a sounding lies outside the globe, or is no depth")
        return self


Told = Annotated[list[float | None], Field(min_length=24, max_length=24)]


Quantity = Literal["air_c", "humidity", "wind_mps", "cloud", "short_wm2", "long_wm2", "pressure_hpa"]


class WeatherDayRow(Row):
    """A day (UTC) that a weather station told of: a list of 24 hours of each quantity, null where it told nothing."""

    on: date
    hours: Annotated[dict[Quantity, Told], Field(max_length=7)]

    @model_validator(mode="after")
    def _can_be(self) -> WeatherDayRow:
        for name, column in self.hours.items():
            if any(value is not None and not WEATHER_LIMITS[name].holds(value) for value in column):
                raise ValueError(f"{name} has a value that can't be")
        return self


class WaterRow(WaterIn):
    """`waters/<uid>.json`: a water with its outline (GeoJSON), its marks, and what a weather station told of it."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    uid: UUID
    rules: Annotated[RulesIn, _as_it_is]
    takes_factor: Annotated[float | None, Field(gt=0, le=100)]
    outline: dict[str, JsonValue] | None
    marks: Annotated[list[MarkRow], Field(max_length=200)]
    weather: Annotated[list[WeatherDayRow], Field(max_length=MOST_STATION_DAYS)] = []

    @model_validator(mode="after")
    def _named_apart(self) -> WaterRow:
        if len({one.uid for one in self.marks}) != len(self.marks):
            raise ValueError("two marks have one uid")
        if len({one.name for one in self.marks}) != len(self.marks):
            raise ValueError("two marks have one name")
        if len({one.on for one in self.weather}) != len(self.weather):
            raise ValueError("two days of weather are one day")
        return self


class TrialRow(TrialIn):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    id: UUID
    undone_at: AwareDatetime | None


class LineRow(LineItemIn):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    uid: UUID
    rate_spread: Annotated[float | None, within(RATE_SPREAD)]
    label_mps: Annotated[float | None, within(SINK_RATE_MPS)]
    stretches: Annotated[list[Annotated[StretchIn, _as_it_is]], Field(max_length=12)]
    looped: Annotated[StretchIn | None, _as_it_is]
    trials: Annotated[list[TrialRow], Field(max_length=2000)]


class LeaderRow(Row):
    uid: UUID
    name: Name
    sections: Annotated[list[Annotated[LeaderSectionIn, _as_it_is]], Field(min_length=1, max_length=12)]
    hardware: Annotated[list[Annotated[HardwareIn, _as_it_is]], Field(max_length=8)]


class FlyRow(FlyItemIn):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    uid: UUID


class RodRow(RodIn):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    uid: UUID


class FloatRow(FloatItemIn):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    uid: UUID


class SpoolRow(SpoolIn):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    uid: UUID


class BoxRow(Row):
    """`box.json`: what the angler owns."""

    lines: Annotated[list[LineRow], Field(max_length=400)]
    leaders: Annotated[list[LeaderRow], Field(max_length=400)]
    flies: Annotated[list[FlyRow], Field(max_length=400)]
    rods: Annotated[list[RodRow], Field(max_length=400)]
    floats: Annotated[list[FloatRow], Field(max_length=400)]
    spools: Annotated[list[SpoolRow], Field(max_length=400)]

    @model_validator(mode="after")
    def _told_apart(self) -> BoxRow:
        for name in type(self).model_fields:
            rows = getattr(self, name)
            if len({one.uid for one in rows}) != len(rows):
                raise ValueError(f"two {name} have one uid")
        return self


class MeasurementRow(Row):
    at: AwareDatetime
    kind: MeasuredKind
    a: float
    b: float | None


class InstrumentRow(Row):
    """`instruments/<uid>.json`: where an instrument sends from, and what it measured."""

    uid: UUID
    name: Name
    host: Annotated[str, Field(max_length=80)]
    port: Annotated[int, Field(ge=1, le=65535)]
    on: bool
    measurements: Annotated[list[MeasurementRow], Field(max_length=MOST_MEASUREMENTS)]


class TimedRow(Row):
    device_at: AwareDatetime | None
    received_at: AwareDatetime | None


class PhotoRow(Row):
    """The picture itself is `photos/<id of its entry>.jpg`."""

    width_px: Annotated[int, Field(ge=1, le=1600)]
    height_px: Annotated[int, Field(ge=1, le=1600)]
    kept_at: AwareDatetime


class EntryRow(TimedRow):
    id: UUID
    kind: EntryKey
    at: AwareDatetime
    cast_elapsed_s: Annotated[float | None, within(CAST_ELAPSED_S)]
    depth_low_m: Annotated[float, Field(ge=0, le=200)]
    depth_high_m: Annotated[float, Field(ge=0, le=200)]
    species: Annotated[str, Field(max_length=20)]
    length_m: Annotated[float | None, within(FISH_LENGTH_M)]
    weight_kg: Annotated[float | None, within(FISH_WEIGHT_KG)]
    kept: bool | None
    played_s: Annotated[float | None, within(PLAYED_S)]
    toward: Annotated[int | None, within(CAST_TOWARD)]
    far: bool | None
    fly_class: Annotated[int | None, Field(ge=1, le=8)]
    # An archive of version 2 or before has none of these.
    fly: Annotated[int | None, Field(ge=0, le=3)] = None
    phase: Literal["", "drop", "pull", "stop", "hang", "lift", "rest"] = ""
    colour: Annotated[str, Field(max_length=80)] = ""
    hook_size: Annotated[int | None, Field(ge=1, le=32)] = None
    pace: Literal["", "still", "slow", "quick"] = ""
    undone_at: AwareDatetime | None
    photo: PhotoRow | None

    @model_validator(mode="after")
    def _in_order(self) -> EntryRow:
        if self.depth_low_m > self.depth_high_m:
            raise ValueError("depth_low_m lies below depth_high_m")
        return self


class ToldRow(Row):
    """What the picture of then said of the water."""

    worth: Annotated[list[float], Field(max_length=1000)]
    light: float
    surface_c: float
    thermocline_m: float | None


Path = Annotated[list[Annotated[float, Field(ge=-1e6, le=1e6)]], Field(min_length=1, max_length=5000)]


class PresentationRow(TimedRow):
    """A rig and what was done with it, the water then, and where the simulation put the point fly."""

    id: UUID
    started_at: AwareDatetime
    conditions: Annotated[dict[str, JsonValue], Field(description="as sent, without the water")]
    line: Annotated[LineIn, _as_it_is]
    leader: Annotated[LeaderIn, _as_it_is]
    flies: Annotated[list[Annotated[PlacedFlyIn, _as_it_is]], Field(max_length=4)]
    action: Annotated[ActionIn, _as_it_is]
    low_m: Annotated[float, Field(ge=0, le=200)]
    high_m: Annotated[float, Field(ge=0, le=200)]
    path_s: Path
    path_depth_m: Path
    path_spread_m: Path
    told: Annotated[ToldRow | None, _as_it_is]
    advice: Annotated[AdviceIn | None, _as_it_is]
    entries: Annotated[list[EntryRow], Field(max_length=MOST_ROWS)]

    @model_validator(mode="after")
    def _sound(self) -> PresentationRow:
        _read(self.conditions)
        if not len(self.path_s) == len(self.path_depth_m) == len(self.path_spread_m):
            raise ValueError("path_s, path_depth_m and path_spread_m differ in length")
        if any(later < sooner for sooner, later in zip(self.path_s, self.path_s[1:], strict=False)):
            raise ValueError("path_s goes back in time")
        return self


class ChangeRow(Row):
    """What was put right afterwards, of the day or of an entry of it."""

    uid: UUID
    at: AwareDatetime
    entry: UUID | None
    before: dict[str, JsonValue]
    after: dict[str, JsonValue]


class CatchRow(Row):
    """Fish from another log."""

    id: UUID
    at: AwareDatetime
    timed: bool
    count: Annotated[int, Field(ge=1, le=500)]
    species: Annotated[str, Field(max_length=40)]
    length_m: Annotated[float | None, within(FISH_LENGTH_M)]
    weight_kg: Annotated[float | None, within(FISH_WEIGHT_KG)]
    depth_m: Annotated[float | None, within(DEPTH_M)]
    kept: bool | None
    fly: Label
    method: Label
    notes: Notes


class DayRow(TimedRow):
    """`days/<id>.json`: a day at one water with all that was logged in it."""

    id: UUID
    water: UUID
    at: AwareDatetime
    conditions: Annotated[dict[str, JsonValue], Field(description="as sent, without the water")]
    notes: Annotated[str, Field(max_length=4000)]
    presentations: Annotated[list[PresentationRow], Field(max_length=500)]
    changes: Annotated[list[ChangeRow], Field(max_length=MOST_ROWS)]
    catches: Annotated[list[CatchRow], Field(max_length=2000)]

    @model_validator(mode="after")
    def _sound(self) -> DayRow:
        _read(self.conditions)
        entries = {entry.id for one in self.presentations for entry in one.entries}
        if any(change.entry is not None and change.entry not in entries for change in self.changes):
            raise ValueError("a change is of an entry that the day does not have")
        return self


def _read(conditions: dict[str, Any]) -> None:
    if "water_id" in conditions:
        raise ValueError("conditions name the water by the number that it had on another server")
    _nothing_more(conditions, ConditionsIn.model_validate({**conditions, "water_id": 0}).model_dump())


FILES: dict[str, type[BaseModel]] = {
    "archive.json": HeadRow,
    "box.json": BoxRow,
    "waters/<uid>.json": WaterRow,
    "surveys/<uid>.json": SurveyRow,
    "instruments/<uid>.json": InstrumentRow,
    "days/<id>.json": DayRow,
}


def json_schema() -> dict[str, Any]:
    """Return the published schema: under `$defs` the shape of each file, under `files` which file has which."""
    shapes, schema = models_json_schema([(kind, "validation") for kind in FILES.values()], ref_template="#/$defs/{model}")
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Archive of Still Thread",
        "description": "A zip of JSON files, one to a water, an instrument and a day; pictures beside them as JPEG. All "
        "quantities are SI, named with their unit; all times carry their zone.",
        "version": VERSION,
        "files": {name: shapes[(kind, "validation")] for name, kind in FILES.items()},
        "$defs": schema["$defs"],
    }


def moment(value: datetime | None) -> str | None:
    """Return a time as the archive writes it."""
    return None if value is None else value.isoformat()
