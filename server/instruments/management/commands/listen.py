"""Listen to instruments, as a process of its own beside those that serve."""

from __future__ import annotations

import fcntl
import logging
import signal
import threading
from pathlib import Path
from typing import Any

from common.in_use import work_with_store
from django.conf import settings
from django.core.management.base import BaseCommand, CommandError
from django.db import DatabaseError, close_old_connections

from instruments.hearing import ROUND_S, listen_once
from instruments.listener import Listeners

log = logging.getLogger(__name__)


class Command(BaseCommand):
    help = "Listen to every instrument that is on, until stopped. One such process at a time."

    def handle(self, *args: Any, **options: Any) -> None:
        if not settings.SHARED_DIR:
            raise CommandError("Set STILLTHREAD_SHARED: the processes that serve read there what is heard.")
        folder = Path(settings.SHARED_DIR)
        folder.mkdir(parents=True, exist_ok=True)
        with (folder / "listener.lock").open("w") as lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except BlockingIOError:
                raise CommandError("Another process listens already.") from None
            in_use = work_with_store()
            try:
                self._listen()
            finally:
                if in_use is not None:
                    in_use.close()

    def _listen(self) -> None:
        stop = threading.Event()
        for sign in (signal.SIGTERM, signal.SIGINT):
            signal.signal(sign, lambda *_: stop.set())
        own = Listeners()
        self.stdout.write("listening", ending="\n")
        self.stdout.flush()
        try:
            while not stop.is_set():
                try:
                    listen_once(own)
                except DatabaseError:
                    log.exception("the store can't be asked which instruments are on")  # the next round tries again
                close_old_connections()
                stop.wait(ROUND_S)
        finally:
            own.stop_all()
