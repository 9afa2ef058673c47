"""A thread per instrument: connects, reads, stores, and connects again when the line is lost.

What was read and not yet stored stays in hand until the store has taken it, through lost connections and a busy database.
"""

from __future__ import annotations

import contextlib
import logging
import socket
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime

from django.db import DatabaseError, connections, transaction
from django.utils import timezone

from instruments.models import Instrument, Measurement
from stillthread.api import Measured, Reader

logger = logging.getLogger(__name__)

CONNECT_S = 3.0
SILENT_S = 12.0
STORE_EVERY_S = 1.0
WAITS_S = (0.5, 1.0, 2.0, 4.0, 8.0)
MOST_IN_HAND = 50_000
MOST_LISTENERS = 16
THIN_S = 0.5  # of one kind no more than one value in this time is kept: a boat under way goes half a metre meanwhile
MOST_KEPT = 400_000  # days of surveying; of more, the oldest goes
TIDY_EVERY = 2_000
MOST_AT_ONCE = 5_000


@dataclass(kw_only=True)
class State:
    """How a listener fares: "connecting", "connected" or "lost" since when, after how many tries, and the last of each kind."""

    word: str = "connecting"
    since: datetime = field(default_factory=timezone.now)
    tries: int = 0
    lost: int = 0
    bad_checksums: int = 0
    malformed: int = 0
    why: str = ""
    last: dict[str, tuple[datetime, Measured]] = field(default_factory=dict)

    def turn(self, word: str, why: str = "") -> None:
        if word != self.word:
            self.word, self.since = word, timezone.now()
        self.why = why


class Listener(threading.Thread):
    """Listens to one instrument until stopped."""

    def __init__(self, instrument_id: int, host: str, port: int, waits_s: tuple[float, ...] = WAITS_S) -> None:
        super().__init__(daemon=True, name=f"instrument-{instrument_id}")
        self.instrument_id, self.address, self.waits_s = instrument_id, (host, port), waits_s
        self.state = State()
        self.stopping = threading.Event()
        self.in_hand: list[Measurement] = []
        self._stored_at = time.monotonic()
        self._kept_at: dict[str, float] = {}
        self.stored = 0
        self._tidied_at = 0

    def run(self) -> None:
        try:
            while not self.stopping.is_set():
                self._listen()
                self._store()
                if not self.stopping.is_set():
                    self.stopping.wait(self.waits_s[min(self.state.tries, len(self.waits_s)) - 1])
        finally:
            self._store()
            connections.close_all()

    def stop(self) -> None:
        self.stopping.set()
        self.join(timeout=5.0)

    def _listen(self) -> None:
        reader = Reader()
        self.state.tries += 1
        try:
            with contextlib.closing(socket.create_connection(self.address, timeout=CONNECT_S)) as line:
                line.settimeout(0.25)
                heard = time.monotonic()
                while not self.stopping.is_set():
                    try:
                        data = line.recv(4096)
                    except TimeoutError:
                        data = b""
                        if time.monotonic() - heard > SILENT_S:
                            self._lose("It has said nothing for a while.", reader)
                            return
                    else:
                        if not data:
                            self._lose("It closed the connection.", reader)
                            return
                        heard = time.monotonic()
                        self._take(reader, reader.feed(data))
                    if time.monotonic() - self._stored_at > STORE_EVERY_S:
                        self._store()
        except OSError as error:
            self._lose(f"Nothing answers at {self.address[0]}:{self.address[1]} ({error.strerror or 'no answer'}).", reader)

    def _lose(self, why: str, reader: Reader) -> None:
        if self.state.word == "connected":
            self.state.lost += 1
        self._take(reader, reader.finish(), counted=True)
        self.state.turn("lost", why)

    def _take(self, reader: Reader, measured: list[Measured], *, counted: bool = False) -> None:
        now = timezone.now()
        self.state.bad_checksums += reader.bad_checksums
        self.state.malformed += reader.malformed
        reader.bad_checksums = reader.malformed = 0
        if measured and not counted:
            self.state.turn("connected")
            self.state.tries = 1
        for one in measured:
            self.state.last[one.kind] = (now, one)
            if time.monotonic() - self._kept_at.get(one.kind, -THIN_S) < THIN_S:
                continue
            self._kept_at[one.kind] = time.monotonic()
            self.in_hand.append(Measurement(instrument_id=self.instrument_id, at=now, kind=one.kind, a=one.a, b=one.b))

    def _store(self) -> None:
        self._stored_at = time.monotonic()
        batch = self.in_hand[:MOST_IN_HAND]
        if not batch:
            return
        try:
            with transaction.atomic():
                if Instrument.objects.filter(pk=self.instrument_id).exists():
                    Measurement.objects.bulk_create(batch, batch_size=500)
        except DatabaseError:
            # Kept in hand: the next round tries again.
            logger.exception("measurements of instrument %s wait for the store", self.instrument_id)
            return
        del self.in_hand[: len(batch)]
        self.stored += len(batch)
        if self._tidied_at == 0 or self.stored - self._tidied_at > TIDY_EVERY:
            self._tidied_at = self.stored
            self._tidy()

    def _tidy(self) -> None:
        """Let the oldest measurements go where there are too many, a few at a time: others wait for the store meanwhile."""
        mine = Measurement.objects.filter(instrument_id=self.instrument_id).order_by("-id")
        with contextlib.suppress(DatabaseError):  # the next round tries again
            while old := list(mine.values_list("id", flat=True)[MOST_KEPT : MOST_KEPT + MOST_AT_ONCE]):
                Measurement.objects.filter(id__in=old).delete()


class Listeners:
    """The listeners of this process, one an instrument."""

    def __init__(self, make: Callable[[int, str, int], Listener] = Listener) -> None:
        self._make = make
        self._running: dict[int, Listener] = {}
        self._lock = threading.Lock()

    def follow(self, instrument: Instrument) -> None:
        """Start or stop listening as the instrument says."""
        with self._lock:
            running = self._running.get(instrument.pk)
            right = running is not None and running.is_alive() and running.address == (instrument.host, instrument.port)
            if instrument.on and right:
                return
            if running is not None:
                del self._running[instrument.pk]
                running.stop()
            if instrument.on and self.room_for(instrument):
                self._running[instrument.pk] = started = self._make(instrument.pk, instrument.host, instrument.port)
                started.start()

    def room_for(self, instrument: Instrument) -> bool:
        """Return whether one more can be listened to, or this one is already."""
        alive = {known for known, listener in self._running.copy().items() if listener.is_alive()}
        return instrument.pk in alive or len(alive) < MOST_LISTENERS

    def known(self) -> set[int]:
        return set(self._running)

    def state_of(self, instrument_id: int) -> State | None:
        running = self._running.get(instrument_id)
        return running.state if running else None

    def forget(self, instrument_id: int) -> None:
        with self._lock:
            running = self._running.pop(instrument_id, None)
        if running:
            running.stop()

    def stop_all(self) -> None:
        for instrument_id in list(self._running):
            self.forget(instrument_id)


listeners = Listeners()
