"""What the log read of a water, as its lake is told it."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

from lake.heard import Heard

from days.models import Day, Presentation
from stillthread.api import SURFACE, Reading
from waters.models import Water


def heard_in_log(water: Water, begin: datetime, end: datetime) -> list[Heard]:
    """Return what was read on this water's days, each lowering once, without what was only assumed."""
    found: dict[tuple[Any, ...], Heard] = {}
    days = Day.objects.filter(water=water, at__gte=begin, at__lt=end)
    fished = Presentation.objects.filter(day__in=days).order_by("started_at")
    for conditions in (*days.order_by("at").values_list("conditions", flat=True), *fished.values_list("conditions", flat=True)):
        one = _heard(conditions, ZoneInfo(water.time_zone))
        if one is not None and begin <= one.at < end:
            found[(one.at, one.readings, one.oxygen)] = one
    return list(found.values())


def _heard(conditions: dict[str, Any], zone: ZoneInfo) -> Heard | None:
    readings, oxygen = (
        tuple(_readings(conditions)),
        tuple((o["depth_m"], o["oxygen_mgl"]) for o in conditions.get("oxygen") or ()),
    )
    if not readings and not oxygen:
        return None
    at = datetime.fromisoformat(conditions.get("read_at_local") or conditions["at_local"])
    return Heard(at if at.tzinfo else at.replace(tzinfo=zone), readings, oxygen)


def _readings(conditions: dict[str, Any]) -> Iterator[Reading]:
    unread = SURFACE in (conditions.get("assumed") or ())
    for one in conditions["readings"]:
        if not (unread and one["depth_m"] == 0.0):
            yield Reading(one["depth_m"], one["water_c"])
