"""What was read of a water, as it is sent: SI units, named."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from common.fields import within
from ninja import Field, Schema
from pydantic import BaseModel

from stillthread.api import (
    BOTTOM_DEPTH_M,
    DEPTH_M,
    FOOD_SIZE_MM,
    LATITUDE_DEG,
    LONGITUDE_DEG,
    OXYGEN_MGL,
    SAMPLE_AGE_H,
    SAMPLE_COUNT,
    SECCHI_M,
    SHARE,
    WATER_C,
    WEED_M,
    WIND_FROM_DEG,
    WIND_MPS,
)

AssumedName = Literal["surface_c", "wind_speed_mps", "wind_from_deg", "cloud_fraction", "secchi_m", "bottom_depth_m"]


class ReadingIn(BaseModel):
    """`trusted`: the angler has checked a reading that looks odd."""

    depth_m: Annotated[float, within(DEPTH_M)]
    water_c: Annotated[float, within(WATER_C)]
    trusted: bool = False


class OxygenReadingIn(BaseModel):
    depth_m: Annotated[float, within(DEPTH_M)]
    oxygen_mgl: Annotated[float, within(OXYGEN_MGL)]
    trusted: bool = False


class LoweringIn(Schema):
    """Temperatures read earlier, at a clock time at the water."""

    at_local: datetime
    readings: Annotated[list[ReadingIn], Field(min_length=1, max_length=2000)]


class SampleItemIn(Schema):
    food_key: Annotated[str, Field(max_length=24)]
    count: Annotated[int, within(SAMPLE_COUNT)]
    size_mm: Annotated[float | None, within(FOOD_SIZE_MM)] = None
    colour: Annotated[str, Field(max_length=40)] = ""


class SampleIn(Schema):
    """What a throat sample held, and how long ago it was taken."""

    items: Annotated[list[SampleItemIn], Field(min_length=1, max_length=16)]
    age_h: Annotated[float, within(SAMPLE_AGE_H)] = 0.0


class PlaceIn(Schema):
    """Where the angler stands or is anchored, degrees of WGS 84."""

    latitude_deg: Annotated[float, within(LATITUDE_DEG)]
    longitude_deg: Annotated[float, within(LONGITUDE_DEG)]


class ConditionsIn(Schema):
    """What was read. `at_local` is the clock time at the water, without a zone; `species` is the water's unless given.

    `far_bottom_depth_m` is the bottom under the end of the cast where it differs; `weed_m` how high weed stands.
    `signs` are keys of the food signs that were seen. `readings` were taken at `read_at_local`, or now; of these and the
    `earlier` ones the newest counts, and older ones where it does not reach. `assumed` names what nobody read: in its place
    stands what such a water usually has, whatever is sent (for `surface_c` the reading at the surface).
    """

    water_id: int
    at_local: datetime
    readings: Annotated[list[ReadingIn], Field(min_length=1, max_length=2000)]
    wind_speed_mps: Annotated[float, within(WIND_MPS)]
    wind_from_deg: Annotated[float, within(WIND_FROM_DEG)]
    cloud_fraction: Annotated[float, within(SHARE)]
    secchi_m: Annotated[float, within(SECCHI_M)]
    bottom_depth_m: Annotated[float, within(BOTTOM_DEPTH_M)]
    species: Annotated[str | None, Field(max_length=20)] = None
    far_bottom_depth_m: Annotated[float | None, within(BOTTOM_DEPTH_M)] = None
    weed_m: Annotated[float, within(WEED_M)] = 0.0
    signs: Annotated[list[Annotated[str, Field(max_length=24)]], Field(max_length=16)] = []
    sample: SampleIn | None = None
    oxygen: Annotated[list[OxygenReadingIn], Field(max_length=200)] = []
    read_at_local: datetime | None = None
    earlier: Annotated[list[LoweringIn], Field(max_length=12)] = []
    ice: bool = False
    place: PlaceIn | None = None
    assumed: Annotated[list[AssumedName], Field(max_length=6)] = []


class ProfileFileOut(Schema):
    """What a file held; `notes` say what of it was left out."""

    readings: list[ReadingIn]
    oxygen: list[OxygenReadingIn]
    notes: list[str]
