"""What a boat's thermometer measured on a water, as its lake is told it."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime, timedelta

import numpy as np
from django.db.models import Avg, Count
from django.db.models.functions import TruncHour
from lake.heard import Heard

from instruments.models import Measurement
from stillthread.api import Plane, Reading
from waters.models import Water

TRANSDUCER_M = 0.4  # ours: under the hull of a small boat
LEAST = 20  # ours: of an hour, so that one odd value is not the hour's
APART = timedelta(hours=6)  # what one thermometer says again within a few hours is no second witness


def heard_by_instruments(water: Water, begin: datetime, end: datetime) -> list[Heard]:
    """Return what the owner's instruments measured while they were on this water, one reading in some hours each."""
    rows = (
        Measurement.objects.filter(instrument__owner=water.owner_id, kind__in=("water", "position"), at__gte=begin, at__lt=end)
        .annotate(hour=TruncHour("at"))
        .order_by("instrument_id", "hour", "kind")
        .values_list("instrument_id", "hour", "kind")
        .annotate(a_mean=Avg("a"), b_mean=Avg("b"), count=Count("pk"))
    )
    hours: dict[tuple[int, datetime], dict[str, tuple[float, float, int]]] = defaultdict(dict)
    for instrument_id, hour, kind, a, b, count in rows:
        hours[instrument_id, hour][kind] = (a, b or 0.0, count)
    plane = Plane(water.latitude_deg, water.longitude_deg)
    found: list[Heard] = []
    last: dict[int, datetime] = {}
    for (instrument_id, hour), told in sorted(hours.items()):
        if {"water", "position"} - told.keys() or told["water"][2] < LEAST:
            continue
        if instrument_id in last and hour - last[instrument_id] < APART:
            continue
        latitude, longitude, _ = told["position"]
        away_m = float(np.hypot(*plane.to_xy([(longitude, latitude)])[0]))
        if away_m > 1000.0 * max(water.fetch_km, 1.0):
            continue
        last[instrument_id] = hour
        found.append(Heard(hour + timedelta(minutes=30), (Reading(TRANSDUCER_M, told["water"][0]),)))
    return found
