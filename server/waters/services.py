"""Keep waters, and hand them to the core."""

from __future__ import annotations

from typing import Any
from zoneinfo import ZoneInfo

from django.db import IntegrityError, transaction
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404

from accounts.models import User
from project.problems import Refused
from stillthread.water.comfort import species_named
from stillthread.water.seasonal import Lake
from stillthread.weather.sun import Place
from waters.models import Water


def waters_of(owner: User) -> QuerySet[Water]:
    return Water.objects.filter(owner=owner)


def water_of(owner: User, water_id: int) -> Water:
    """Return the owner's water, or 404: another's water does not exist for them."""
    return get_object_or_404(waters_of(owner), pk=water_id)


def save_water(*, water: Water, changes: dict[str, Any]) -> Water:
    """Store a new or changed water, or refuse a name used before."""
    for name, value in changes.items():
        setattr(water, name, value)
    species_named(water.species)
    _check_time_zone(water.time_zone)
    lake_of(water)
    place_of(water)
    try:
        with transaction.atomic():
            water.save()
    except IntegrityError:
        raise Refused(409, "name_taken", "You have a water of that name.", {"name": "You have a water of that name."}) from None
    return water


def _check_time_zone(name: str) -> None:
    try:
        ZoneInfo(name)
    except (KeyError, ValueError, OSError):
        text = f"Time zone {name!r} is not known. Use a name such as Etc/GMT-2."
        raise Refused(422, "invalid", text, {"time_zone": text}) from None


def lake_of(water: Water) -> Lake:
    return Lake(water.latitude_deg, water.altitude_m, water.fetch_km)


def place_of(water: Water) -> Place:
    return Place(water.latitude_deg, water.longitude_deg)
