"""Who listens: this process with its own threads, or another beside it, which leaves word in the shared cache."""

from __future__ import annotations

import dataclasses
import time
from datetime import datetime

from django.conf import settings
from django.core.cache import cache
from django.utils import timezone

from instruments.listener import Listeners, State, listeners
from instruments.models import Instrument

KEPT_S = 60
SILENT_S = 8.0
"""After so long without a sign the listener is taken to be down: it gives one every second."""
ROUND_S = 1.0


def allowed(instrument: Instrument) -> bool:
    """Return whether the keeper of the server lets it be listened to."""
    return f"{instrument.host}:{instrument.port}" in settings.INSTRUMENTS


def room_for(instrument: Instrument) -> bool:
    """Return whether there is a line for one more."""
    return settings.LISTENS_APART or listeners.room_for(instrument)


def follow(instrument: Instrument) -> None:
    """Listen as the instrument says; another process that listens looks for itself."""
    if not settings.LISTENS_APART:
        listeners.follow(instrument)


def forget(instrument: Instrument) -> None:
    if not settings.LISTENS_APART:
        listeners.forget(instrument.pk)


def _key(instrument_id: int) -> str:
    return f"heard:{instrument_id}"


def state_of(instrument: Instrument) -> State | None:
    """Return how its line fares; None where nobody listens to it."""
    if not settings.LISTENS_APART:
        if instrument.on and allowed(instrument):
            listeners.follow(instrument)  # a restarted server takes up where it was
        return listeners.state_of(instrument.pk)
    if not instrument.on:
        return None
    told: tuple[float, State] | None = cache.get(_key(instrument.pk))
    if told is not None and time.time() - told[0] < SILENT_S:
        return told[1]
    alive = cache.get("heard:all")
    if alive is not None and time.time() - alive < SILENT_S:
        return State()  # it has not come to this one yet
    down = State() if told is None else dataclasses.replace(told[1])
    down.turn("lost", "The listener does not run. Tell the keeper of this server.")
    return down


def listen_once(own: Listeners, now: datetime | None = None) -> int:
    """Follow every instrument that is on, drop those that are not, and leave word of each; return how many there are."""
    wanted = {one.pk: one for one in Instrument.objects.filter(on=True) if allowed(one)}
    for known in own.known() - set(wanted):
        own.forget(known)
        cache.delete(_key(known))
    for instrument in wanted.values():
        own.follow(instrument)
        state = own.state_of(instrument.pk)
        if state is None:
            state = State(word="lost", since=now or timezone.now(), why="Every line of this server is taken.")
        cache.set(_key(instrument.pk), (time.time(), dataclasses.replace(state, last=dict(state.last))), KEPT_S)
    cache.set("heard:all", time.time(), KEPT_S)
    return len(wanted)
