"""Keep instruments, their measurements and the forecast."""

from __future__ import annotations

import http.client
from datetime import datetime, timedelta
from typing import Any
from urllib.error import URLError
from urllib.parse import urlencode
from urllib.request import urlopen

import numpy as np
from common.problems import Refused
from django.conf import settings
from django.db import IntegrityError, transaction
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone

from accounts.models import User
from instruments import hearing
from instruments.models import Forecast, Instrument, Measurement
from stillthread.api import BadInput, Measured, StillthreadError, read_forecast_json, soundings_of
from waters.models import Survey, Water
from waters.soundings import add_survey

MOST_INSTRUMENTS = 8
FRESH = timedelta(minutes=30)
LATE = timedelta(hours=3)
FORECAST_TIMEOUT_S = 2.0


def instruments_of(owner: User) -> QuerySet[Instrument]:
    return Instrument.objects.filter(owner=owner)


def instrument_of(owner: User, instrument_id: int) -> Instrument:
    return get_object_or_404(instruments_of(owner), pk=instrument_id)


def save_instrument(*, instrument: Instrument, changes: dict[str, Any]) -> Instrument:
    """Store a new or changed instrument and listen to it, or stop, as it says."""
    for name, value in changes.items():
        setattr(instrument, name, value)
    if not hearing.allowed(instrument):
        named = ", ".join(settings.INSTRUMENTS)
        text = f"This server listens only where its keeper allows it: {named or 'nowhere yet'}."
        known_host = any(pair.rsplit(":", 1)[0] == instrument.host for pair in settings.INSTRUMENTS)
        raise Refused(422, "host_not_allowed", text, {"port" if known_host else "host": text})
    if instrument.on and not hearing.room_for(instrument):
        text = "This server listens to as many instruments as it can. Switch one off, or try again later."
        raise Refused(422, "no_line_free", text, {"on": text})
    if instrument.pk is None and instruments_of(instrument.owner).count() >= MOST_INSTRUMENTS:
        raise BadInput(f"{MOST_INSTRUMENTS} instruments are the most.", field="name")
    try:
        with transaction.atomic():
            instrument.save()
    except IntegrityError:
        text = "You have an instrument of that name."
        raise Refused(409, "name_taken", text, {"name": text}) from None
    transaction.on_commit(lambda: hearing.follow(instrument))
    return instrument


def remove_instrument(instrument: Instrument) -> None:
    hearing.forget(instrument)
    instrument.delete()


def show_instrument(instrument: Instrument) -> dict[str, Any]:
    """Return an instrument with how its line fares and the last value of each kind."""
    state = hearing.state_of(instrument)
    return {
        "id": instrument.pk,
        **{name: getattr(instrument, name) for name in ("name", "host", "port", "on")},
        "state": state.word if state else "off",
        "since": state.since if state else None,
        "why": state.why if state else "",
        "lost": state.lost if state else 0,
        "bad_checksums": state.bad_checksums if state else 0,
        "malformed": state.malformed if state else 0,
        "stored": instrument.measurements.count(),
        "last": [_show_last(kind, at, one.a, one.b) for kind, (at, one) in sorted(state.last.items())] if state else [],
    }


def _show_last(kind: str, at: datetime, a: float, b: float | None) -> dict[str, Any]:
    return {"kind": kind, "at": at, "a": a, "b": b}


def survey_from(instrument: Instrument, water: Water) -> Survey:
    """Make a survey of a water out of every stored depth that followed a position."""
    stored = Measurement.objects.filter(instrument=instrument, kind__in=("position", "depth")).order_by("id")
    rows = stored.values_list("kind", "a", "b")[:400_000]
    found = soundings_of(Measured(kind, a, b) for kind, a, b in rows)
    if len(found) < 3:
        text = "This instrument has given no depths with positions yet; three are needed."
        raise Refused(422, "no_soundings", text, {"instrument": text})
    lonlat = np.array([(s.longitude_deg, s.latitude_deg) for s in found])
    return add_survey(water, instrument.name, lonlat, np.array([s.depth_m for s in found]))


def forecast_of(water: Water, *, now: datetime | None = None) -> dict[str, Any]:
    """Return the forecast of a water: fresh, or the last that came with how late it is, or none with why."""
    now = now or timezone.now()
    kept = Forecast.objects.filter(water=water).first()
    why = ""
    if kept is None or now - kept.fetched_at > FRESH:
        try:
            hours = _fetch(water)
        except StillthreadError as error:
            why = error.message
        except (URLError, OSError, http.client.HTTPException):
            why = "The weather service does not answer."
        else:
            kept, _ = Forecast.objects.update_or_create(water=water, defaults={"fetched_at": now, "hours": hours})
    if kept is None:
        return {"state": "absent", "why": f"{why} Enter wind and sky by hand.", "fetched_at": None, "hours": []}
    age = now - kept.fetched_at
    state = "fresh" if age <= FRESH else "late"
    if state == "late":
        old = "It is too old to plan by." if age > LATE else "Use it with care."
        why = f"{why} The last forecast came {int(age.total_seconds() // 60)} minutes ago. {old}".strip()
    return {"state": state, "why": why, "fetched_at": kept.fetched_at, "hours": kept.hours}


def _fetch(water: Water) -> list[dict[str, Any]]:
    asked = urlencode({"lat": water.latitude_deg, "lon": water.longitude_deg})
    # The address is the keeper's own setting, never a person's input.
    with urlopen(f"{settings.FORECAST_URL}?{asked}", timeout=FORECAST_TIMEOUT_S) as answer:  # noqa: S310
        hours = read_forecast_json(answer.read(1_000_001))
    return [
        {
            "at": hour.at.isoformat(),
            "wind_speed_mps": hour.wind_speed_mps,
            "wind_from_deg": hour.wind_from_deg,
            "cloud_fraction": hour.cloud_fraction,
            "air_c": hour.air_c,
            "pressure_hpa": hour.pressure_hpa,
        }
        for hour in hours
    ]
