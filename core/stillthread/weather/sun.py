"""The sun over a water: how high it stands."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta

from astral import Observer
from astral.sun import azimuth, dawn, dusk, elevation, sunrise, sunset

from stillthread.errors import BadInput
from stillthread.ranges import LATITUDE_DEG, LONGITUDE_DEG


@dataclass(frozen=True, slots=True)
class Place:
    """A point on the earth: `latitude_deg` (south negative), `longitude_deg` (west negative)."""

    latitude_deg: float
    longitude_deg: float

    def __post_init__(self) -> None:
        LATITUDE_DEG.check("latitude_deg", self.latitude_deg)
        LONGITUDE_DEG.check("longitude_deg", self.longitude_deg)


def sun_elevation_deg(place: Place, at: datetime) -> float:
    """Return the height of the sun above the level horizon, refraction included.

    It is blind to hills and trees.

    Parameters
    ----------
    place : Place
    at : datetime
        With its time zone.

    Returns
    -------
    float
        Degrees, -90 to 90; negative below the horizon.

    Raises
    ------
    BadInput
        `at` has no time zone.

    References
    ----------
    astral's solar position, checked against an ephemeris in the tests.
    """
    if at.tzinfo is None:
        raise BadInput("A time needs its time zone.", field="at")
    return float(elevation(Observer(place.latitude_deg, place.longitude_deg), at))


def sun_azimuth_deg(place: Place, at: datetime) -> float:
    """Return where the sun stands, degrees clockwise from true north; see `sun_elevation_deg`."""
    if at.tzinfo is None:
        raise BadInput("A time needs its time zone.", field="at")
    return float(azimuth(Observer(place.latitude_deg, place.longitude_deg), at)) % 360.0


@dataclass(frozen=True, slots=True)
class SunTimes:
    """Civil dawn, sunrise, sunset and civil dusk in the zone asked for; None where that does not happen on the day."""

    dawn: datetime | None
    sunrise: datetime | None
    sunset: datetime | None
    dusk: datetime | None
    always_up: bool


def sun_times(place: Place, at: datetime) -> SunTimes:
    """Return the times of the sun on the local day of `at`.

    Parameters
    ----------
    place : Place
    at : datetime
        With its time zone.

    Returns
    -------
    SunTimes
        In the zone of `at`; `always_up` where the sun does not set.

    Raises
    ------
    BadInput
        `at` has no time zone.

    References
    ----------
    astral's solar position, checked against an ephemeris in the tests.
    """
    if at.tzinfo is None:
        raise BadInput("A time needs its time zone.", field="at")
    observer = Observer(place.latitude_deg, place.longitude_deg)

    def when(event: Callable[..., datetime]) -> datetime | None:
        try:
            return event(observer, date=at.date(), tzinfo=at.tzinfo)
        except ValueError:
            return None

    rises, sets = when(sunrise), when(sunset)
    begins, ends = when(dawn), when(dusk)
    # Near the polar circle twilight runs past midnight, and is then told for the wrong side of the day.
    if begins and rises and begins > rises:
        begins -= timedelta(days=1)
    if rises and sets and sets < rises:
        sets += timedelta(days=1)
    if ends and sets and ends < sets:
        ends += timedelta(days=1)
    noon = at.replace(hour=12, minute=0, second=0, microsecond=0)
    midnight = noon + timedelta(hours=12)
    always_up = rises is None and sun_elevation_deg(place, midnight) > -0.9 and sun_elevation_deg(place, noon) > 0.0
    return SunTimes(begins, rises, sets, ends, always_up)
