"""The stand-ins' servers: NMEA over TCP to any number of listeners, and the forecast over HTTP."""

from __future__ import annotations

import contextlib
import json
import random
import socket
import threading
import time
from collections.abc import Callable
from datetime import datetime, timedelta, timezone
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any
from urllib.parse import parse_qs, urlparse

from standins.sea import LAKES, Boat, Weather

Stream = Callable[[float], bytes]


def sounder_stream(lake: str) -> Stream:
    boat = Boat(LAKES[lake])
    return lambda seconds: boat.sentences(seconds, datetime.now(timezone.utc))


def station_stream(lake: str) -> Stream:
    weather = Weather(LAKES[lake].plane.latitude_deg)
    return lambda _: weather.sentences(datetime.now(timezone.utc))


class StreamServer:
    """Sends what `stream` says of the seconds since the start, every `every_s`, to whoever is connected.

    With `drop_every_s` each connection is cut after so long, in the middle of a sentence; `spoil` is the share of
    sentences whose checksum is made wrong.
    """

    def __init__(
        self, port: int, stream: Stream, *, every_s: float = 1.0, drop_every_s: float = 0.0, spoil: float = 0.0,
        rng: random.Random | None = None,
    ) -> None:  # fmt: skip
        self.stream, self.every_s, self.drop_every_s, self.spoil = stream, every_s, drop_every_s, spoil
        self.rng = rng or random.Random(1)
        self.socket = socket.create_server(("127.0.0.1", port))
        self.port: int = self.socket.getsockname()[1]
        self.begun = time.monotonic()
        self.stopping = threading.Event()

    def start(self) -> None:
        threading.Thread(target=self._accept, daemon=True).start()

    def stop(self) -> None:
        self.stopping.set()
        with contextlib.suppress(OSError):
            self.socket.shutdown(socket.SHUT_RDWR)  # or a thread in accept would take one more
        self.socket.close()

    def _accept(self) -> None:
        while not self.stopping.is_set():
            try:
                connection, _ = self.socket.accept()
            except OSError:
                return
            threading.Thread(target=self._serve, args=(connection,), daemon=True).start()

    def _serve(self, connection: socket.socket) -> None:
        joined = time.monotonic()
        with connection:
            try:
                while not self.stopping.is_set():
                    data = self._spoiled(self.stream(time.monotonic() - self.begun))
                    if self.drop_every_s and time.monotonic() - joined > self.drop_every_s:
                        connection.sendall(data[: len(data) // 2])
                        return
                    connection.sendall(data)
                    self.stopping.wait(self.every_s)
            except OSError:
                return

    def _spoiled(self, data: bytes) -> bytes:
        lines = data.splitlines(keepends=True)
        return b"".join(b"$X" + line[2:] if self.rng.random() < self.spoil else line for line in lines)


def _midnight(day: str) -> datetime:
    return datetime.fromisoformat(day).replace(tzinfo=timezone.utc)


class _Answer(BaseHTTPRequestHandler):
    def do_GET(self) -> None:
        asked = urlparse(self.path)
        service: ForecastService = self.server.service  # type: ignore[attr-defined]
        told = {name: values[0] for name, values in parse_qs(asked.query).items()}
        try:
            weather = Weather(float(told.get("lat", 0.0)), float(told.get("altitude_m", 300.0)))
            begin, end = (
                datetime.fromisoformat(told.get(name, "2026-01-01")).replace(tzinfo=timezone.utc) for name in ("from", "to")
            )
        except ValueError:
            self._send(400, {"error": "no such place or day"})
            return
        if asked.path not in {"/forecast", "/weather"} or service.broken:
            self._send(503, {"error": "no forecast"})
        elif asked.path == "/weather":
            service.asked += 1
            self._send(200, weather.between(begin, min(end, begin + timedelta(days=790))))
        else:
            self._send(200, weather.forecast(datetime.now(timezone.utc)))

    def _send(self, status: int, body: dict[str, Any]) -> None:
        text = json.dumps(body).encode()
        self.send_response(status)
        self.send_header("Content-Type", "application/json")
        self.send_header("Content-Length", str(len(text)))
        self.end_headers()
        self.wfile.write(text)

    def log_message(self, *_: Any) -> None:
        """Keep quiet."""


class ForecastService:
    """GET /forecast?lat=&lon= answers with two days of hours, GET /weather?lat=&lon=&altitude_m=&from=&to= with those of past
    and coming days; `broken` makes it fail, `asked` counts how often weather was."""

    def __init__(self, port: int) -> None:
        self.http = ThreadingHTTPServer(("127.0.0.1", port), _Answer)
        self.http.service = self  # type: ignore[attr-defined]
        self.port: int = self.http.server_address[1]
        self.broken = False
        self.asked = 0

    def start(self) -> None:
        threading.Thread(target=self.http.serve_forever, daemon=True).start()

    def stop(self) -> None:
        self.http.shutdown()
        self.http.server_close()
