"""A water's lake: carried on day by day by its weather, pulled by its readings, and asked for any hour."""

from __future__ import annotations

import hashlib
import io
from collections.abc import Sequence
from dataclasses import replace
from datetime import date, datetime, timedelta, timezone
from functools import lru_cache
from typing import Any

import numpy as np
from django.db import transaction
from django.utils import timezone as clock

from lake.heard import Heard, heard
from lake.models import LakeDay, WeatherDay
from lake.weather import AHEAD, ask_service, take_file, weather_over
from stillthread.api import (
    LIVABLE_MGL,
    DayOf,
    ExpectedColumn,
    LakeState,
    LakeWater,
    StillthreadError,
    Weather,
    begin_lake,
    carry_lake_on,
    find_layers,
    lake_begins_at,
    lake_changed,
    tell_lake,
)
from waters.models import Water
from waters.services import lake_of, place_of
from waters.soundings import hypsography_at

KEPT_AFTER = timedelta(days=400)  # a season that has gone is kept so long for what was learnt in it
KEPT_OF_LATE = timedelta(days=14)  # the ensemble is kept each day from so long ago on, and once a week before
MOST_DOTS = 400
_ARRAYS = ("edge_m", "water_c", "oxygen_mgl", "mud_c", "ice_m", "member", "power")


def lake_water(water: Water) -> LakeWater:
    """Return what is known of a water for its lake: by its chart where there is one, else by what its owner says of it."""
    shape = hypsography_at(water)
    return LakeWater(
        place=place_of(water),
        lake=lake_of(water),
        # Nobody is asked for the deepest place: lakes are deeper than where they are fished.
        deepest_m=min(1.8 * water.usual_bottom_depth_m, 100.0),
        secchi_m=water.usual_secchi_m,
        hypsography=shape,
    )


def bring_up(water: Water, *, now: datetime | None = None) -> dict[str, Any]:
    """Fetch the weather that is new, and carry the lake on to where weather is known; return how it stands."""
    now = now or clock.now()
    begin = lake_begins_at(lake_of(water), now)
    why = ask_service(water, begin, now)
    made = carry(water, now=now)
    return {"state": "fresh" if made else "absent", "why": why}


def take_weather(water: Water, data: bytes) -> dict[str, Any]:
    """Store what a weather station's log tells, and carry the lake on by it."""
    found = take_file(water, data)
    carry(water, now=clock.now())
    return found


def carry(water: Water, *, now: datetime) -> bool:
    """Carry the lake on over all days whose weather is stored; only what changed is made anew. Return whether there is one."""
    begin = lake_begins_at(lake_of(water), now).date()
    newest = WeatherDay.objects.filter(water=water, on__gte=begin).order_by("-on").first()
    if newest is None:
        LakeDay.objects.filter(water=water, on__gte=begin).delete()
        return False
    # A last day that is told of in part is left for when it is whole.
    whole = any(column[-1] is not None for column in newest.hours.values())
    end = min(newest.on + timedelta(days=1 if whole else 0), now.date() + AHEAD)
    weather, marks = weather_over(water, begin, end)
    known = lake_water(water)
    told = _by_day(water, begin, end)
    days = [begin + timedelta(days=k) for k in range((end - begin).days)]
    made_of, mark = {}, hashlib.md5(f"{known}".encode(), usedforsecurity=False)
    for on in days:
        mark.update(f"{on}{marks.get(on, '')}{told.get(on, '')}".encode())
        made_of[on] = mark.hexdigest()
    there = dict(LakeDay.objects.filter(water=water, on__range=(begin, end)).values_list("on", "made_of"))
    good = [on for on in days if there.get(on) == made_of[on]]
    # From the last day that still holds, with an ensemble kept; all before it hold too, since each mark holds the ones before.
    stored = LakeDay.objects.filter(water=water, on__in=good, state__isnull=False).order_by("-on").first() if good else None
    if len(good) == len(days):
        return bool(days)
    state = _begun(water, known, begin) if stored is None else _unpacked(stored)
    rows = []
    for on in days:
        if stored is not None and on <= stored.on:
            continue
        state = _day_on(state, known, weather, on, told.get(on, []))
        keeps = on >= now.date() - KEPT_OF_LATE or on.toordinal() % 7 == 0 or on == days[-1]
        row = LakeDay(
            water=water, on=on, made_of=made_of[on], shown=_shown(state, weather), state=_packed(state) if keeps else None
        )
        rows.append(row)
    with transaction.atomic():
        LakeDay.objects.filter(water=water, on__gte=end).delete()
        LakeDay.objects.filter(water=water, on__lt=begin - KEPT_AFTER).delete()
        # Two who carry it at the same moment write the same.
        LakeDay.objects.bulk_create(
            rows, batch_size=50, update_conflicts=True, unique_fields=["water", "on"],
            update_fields=["made_of", "shown", "state"],
        )  # fmt: skip
    return True


def _day_on(state: LakeState, known: LakeWater, weather: Weather, on: date, told: Sequence[Heard]) -> LakeState:
    midnight = datetime.combine(on + timedelta(days=1), datetime.min.time(), timezone.utc)
    for one in told:
        hour = one.at.astimezone(timezone.utc).replace(minute=0, second=0, microsecond=0)
        if hour > state.at:
            state, _ = carry_lake_on(state, known, weather.between(state.at, hour))
        state = tell_lake(state, known, one.readings, one.oxygen)
    state, _ = carry_lake_on(state, known, weather.between(state.at, midnight))
    return state


def _by_day(water: Water, begin: date, end: date) -> dict[date, list[Heard]]:
    first, last = (datetime.combine(on, datetime.min.time(), timezone.utc) for on in (begin, end))
    found: dict[date, list[Heard]] = {}
    for one in heard(water, first, last):
        found.setdefault(one.at.astimezone(timezone.utc).date(), []).append(one)
    return found


def _begun(water: Water, known: LakeWater, begin: date) -> LakeState:
    """Return the lake at its season's beginning: mixed as such lakes are, or as the winter left it where it was carried through
    that; what was learnt of it in the season before stays by half."""
    midnight = datetime.combine(begin, datetime.min.time(), timezone.utc)
    last = LakeDay.objects.filter(water=water, on__lt=begin, state__isnull=False).order_by("-on").first()
    before = None if last is None else _unpacked(last)
    fresh = begin_lake(known, midnight, learnt=None if before is None else before.member)
    if before is None or midnight - before.at > timedelta(days=8) or before.edge_m.shape != fresh.edge_m.shape:
        return fresh
    told, _ = weather_over(water, before.at.date(), begin)
    carried, _ = carry_lake_on(before, known, told) if len(told) else (before, None)
    return replace(carried, member=fresh.member)


def _shown(state: LakeState, weather: Weather) -> dict[str, Any]:
    column = state.column()
    mean, spread = column.curves_c.mean(axis=0), column.curves_c.std(axis=0)
    oxygen = column.oxygen_mgl.mean(axis=0)
    layers = find_layers(column.depth_m, mean)
    low = np.flatnonzero(oxygen < float(LIVABLE_MGL))
    wind = weather.between(state.at - timedelta(days=1), state.at).columns["wind_mps"]
    return {
        "depth_m": [round(float(d), 2) for d in column.depth_m],
        "water_c": [round(float(t), 2) for t in mean],
        "spread_c": [round(float(t), 2) for t in spread],
        "thermocline_m": None if layers.thermocline_m is None else round(layers.thermocline_m, 1),
        "oxygen_limit_m": round(float(column.depth_m[low[0]]), 1) if len(low) else None,
        "ice_m": round(float(np.median(state.ice_m)), 2),
        "ice_share": round(column.ice_share, 2),
        "wind_mps": None if np.isnan(wind).all() else round(float(np.nanmean(wind)), 1),
    }


def column_at(water: Water, at: datetime) -> ExpectedColumn | None:
    """Return what the lake has at an hour, by the weather until then and by readings of the days before, or none."""
    hour = at.astimezone(timezone.utc).replace(minute=0, second=0, microsecond=0)
    before = hour.date() - timedelta(days=1)
    stored = (
        LakeDay.objects.filter(water=water, on__lte=before, on__gt=before - timedelta(days=8), state__isnull=False)
        .order_by("-on")
        .values_list("pk", "made_of", "on")
        .first()
    )
    if stored is None:
        return None
    # Of this day's own weather, which changes while it is forecast.
    own = LakeDay.objects.filter(water=water, on=hour.date()).values_list("made_of", flat=True).first()
    return _column(stored[0], stored[1], own, hour)


@lru_cache(maxsize=64)
def _column(lake_day_id: int, made_of: str, own: str | None, hour: datetime) -> ExpectedColumn | None:
    row = LakeDay.objects.select_related("water").filter(pk=lake_day_id, made_of=made_of).first()
    if row is None:
        return None
    state, known = _unpacked(row), lake_water(row.water)
    if hour > state.at:
        weather, marks = weather_over(row.water, state.at.date(), hour.date() + timedelta(days=1))
        if not marks:
            return None
        state, _ = carry_lake_on(state, known, weather.between(state.at, hour))
    return state.column(read_at=_last_read(row.water, hour))


def _last_read(water: Water, before: datetime) -> datetime | None:
    begin = lake_begins_at(lake_of(water), before)
    return max((one.at for one in heard(water, begin, before)), default=None)


def year_of(water: Water, *, now: datetime | None = None) -> dict[str, Any]:
    """Return the season so far and the days ahead, as it is drawn."""
    now = now or clock.now()
    begin = lake_begins_at(lake_of(water), now)
    rows = list(LakeDay.objects.filter(water=water, on__gte=begin.date()).order_by("on").values_list("on", "shown"))
    told = heard(water, begin, now)
    readings = [{"at": one.at, "depth_m": r.depth_m, "water_c": r.water_c} for one in told for r in one.readings]
    read_on = {one.at.astimezone(timezone.utc).date() for one in told}
    days = [
        DayOf(
            on=on,
            thermocline_m=one["thermocline_m"],
            top_c=float(np.interp(1.0, one["depth_m"], one["water_c"])),
            wind_mps=one["wind_mps"] or 0.0,
            read=on in read_on,
        )
        for on, one in rows
    ]
    said = lake_changed(days, now.date())
    return {
        "depth_m": rows[0][1]["depth_m"] if rows else [],
        "days": [{"on": on, "ahead": on > now.date(), **{k: v for k, v in s.items() if k != "depth_m"}} for on, s in rows],
        "readings": readings[-MOST_DOTS:],
        "changed": None if said is None else {"text": said.text, "values": said.values},
    }


def _packed(state: LakeState) -> bytes:
    out = io.BytesIO()
    arrays = {name: getattr(state, name).astype(np.float32) for name in _ARRAYS}
    np.savez_compressed(out, at=np.array([state.at.timestamp()]), **arrays)
    return out.getvalue()


def _unpacked(row: LakeDay) -> LakeState:
    with np.load(io.BytesIO(bytes(row.state or b""))) as arrays:
        at = datetime.fromtimestamp(float(arrays["at"][0]), timezone.utc)
        return LakeState(at=at, **{name: arrays[name].astype(np.float64) for name in _ARRAYS})


def safe_column_at(water: Water, at: datetime) -> ExpectedColumn | None:
    """Return the column, or none where a lake can't be carried at all: a picture is never refused for it."""
    try:
        return column_at(water, at)
    except StillthreadError:
        return None
