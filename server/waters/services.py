"""Keep waters, and hand them to the core."""

from __future__ import annotations

from datetime import date
from typing import Any
from zoneinfo import ZoneInfo

from common.problems import Refused
from django.db import IntegrityError, transaction
from django.db.models import BooleanField, ExpressionWrapper, Q, QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone

from accounts.models import User
from stillthread.api import BadInput, Days, Lake, MethodBan, Place, WaterRules, species_named
from waters.models import Water
from waters.outlines import outline_of
from waters.soundings import change_chart


def waters_of(owner: User) -> QuerySet[Water]:
    # An outline may have thousands of corners, and only the chart looks at it.
    outlined = ExpressionWrapper(Q(outline__isnull=False), output_field=BooleanField())
    return Water.objects.filter(owner=owner).defer("outline").annotate(outlined=outlined)


def water_of(owner: User, water_id: int) -> Water:
    """Return the owner's water, or 404: another's water does not exist for them."""
    return get_object_or_404(waters_of(owner), pk=water_id)


def save_water(*, water: Water, changes: dict[str, Any]) -> Water:
    """Store a new or changed water, or refuse a name used before. A moved place moves its chart's plane."""
    before = (water.latitude_deg, water.longitude_deg)
    for name, value in changes.items():
        setattr(water, name, value)
    check_water(water)
    try:
        if water.pk and before != (water.latitude_deg, water.longitude_deg):
            outline_of(water)  # refuses a place far from its own outline
            change_chart(water, also=water.save)
        else:
            with transaction.atomic():
                water.save()
    except BadInput as error:
        raise Refused(422, error.code, error.message, {"latitude_deg": error.message}) from None
    except IntegrityError:
        raise Refused(409, "name_taken", "You have a water of that name.", {"name": "You have a water of that name."}) from None
    return water


def check_water(water: Water) -> None:
    """Refuse a water that the core can't take."""
    for species in (water.species, *water.stocked):
        species_named(species)
    rules_of(water)
    _check_time_zone(water.time_zone)
    lake_of(water)
    place_of(water)


def _check_time_zone(name: str) -> None:
    try:
        ZoneInfo(name)
    except (KeyError, ValueError, OSError):
        text = f"Time zone {name!r} is not known. Use a name such as Etc/GMT-2."
        raise Refused(422, "invalid", text, {"time_zone": text}) from None


def rules_of(water: Water) -> WaterRules:
    """Return the water's rules; refuse a season, or a ban's days, with one end."""
    kept = dict(water.rules)
    season = _days(kept.pop("opens", None), kept.pop("closes", None), "A season", "rules.closes")
    bans = tuple(
        MethodBan(ban["method_key"], _days(ban.get("first"), ban.get("last"), "A method's ban", "rules.method_bans"))
        for ban in kept.pop("method_bans", ())
    )
    return WaterRules(**kept, season=season, method_bans=bans)


def _days(first: str | None, last: str | None, what: str, field: str) -> Days | None:
    if first is None and last is None:
        return None
    if first is None or last is None:
        text = f"{what} needs its first and its last day."
        raise Refused(422, "invalid", text, {field: text})
    return _month_day(first), _month_day(last)


def _month_day(text: str) -> tuple[int, int]:
    month, day = text.split("-")
    return int(month), int(day)


def today_at(water: Water) -> date:
    """Return the date that it is at a water."""
    return timezone.now().astimezone(ZoneInfo(water.time_zone)).date()


def lake_of(water: Water) -> Lake:
    return Lake(water.latitude_deg, water.altitude_m, water.fetch_km)


def place_of(water: Water) -> Place:
    return Place(water.latitude_deg, water.longitude_deg)
