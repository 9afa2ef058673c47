"""The sun over a water: how high it stands."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from astral import Observer
from astral.sun import elevation

from stillthread.errors import BadInput, check_range


@dataclass(frozen=True, slots=True)
class Place:
    """A point on the earth: `latitude_deg` (south negative), `longitude_deg` (west negative)."""

    latitude_deg: float
    longitude_deg: float

    def __post_init__(self) -> None:
        check_range("latitude_deg", self.latitude_deg, -90.0, 90.0, "deg")
        check_range("longitude_deg", self.longitude_deg, -180.0, 180.0, "deg")


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
