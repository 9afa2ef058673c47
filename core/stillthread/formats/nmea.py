"""NMEA 0183 as instruments speak it: sentences out of a stream of bytes, and the readings in them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime, timezone
from typing import Any

import pynmea2  # type: ignore[import-untyped]

from stillthread.errors import BadFile

LONGEST_SENTENCE = 200  # ours: the standard says 82; some instruments run over
NMEA_MOST_BYTES = 10_000_000  # ours: a bound
KNOT_MPS = 0.514444  # by definition


@dataclass(frozen=True, slots=True)
class Measured:
    """One measurement: `kind` is "depth" [m], "water" [C], "wind" [m/s, from_deg] or "position" [deg].

    `a` and `b` hold depth; temperature; wind speed and direction from; latitude and longitude. `at` is the instrument's own
    time where the sentence has one.
    """

    kind: str
    a: float
    b: float | None = None
    at: datetime | None = None


@dataclass(slots=True)
class Reader:
    """Bytes in, measurements out; keeps the start of a sentence until the rest of it comes.

    `bad_checksums` and `malformed` count what was refused; `unknown` what was sound but of no use here.
    """

    bad_checksums: int = 0
    malformed: int = 0
    unknown: int = 0
    good: int = 0
    _rest: bytes = b""

    def feed(self, data: bytes) -> list[Measured]:
        """Return what the sentences completed by `data` measure."""
        self._rest += data
        *lines, self._rest = self._rest.replace(b"\r", b"\n").split(b"\n")
        if len(self._rest) > LONGEST_SENTENCE:
            self._rest = b""
            self.malformed += 1
        found: list[Measured] = []
        for line in lines:
            found.extend(self._read(line.strip()))
        return found

    def finish(self) -> list[Measured]:
        """Return what a last sentence without its line end measures; half a sentence counts as malformed."""
        rest, self._rest = self._rest.strip(), b""
        return list(self._read(rest))

    def _read(self, line: bytes) -> Iterator[Measured]:
        if not line:
            return
        try:
            text = line.decode("ascii")
            if len(text) > LONGEST_SENTENCE or "*" not in text:
                raise ValueError
            sentence = pynmea2.parse(text, check=True)
            measured = list(self._measure(sentence))
        except pynmea2.ChecksumError:
            self.bad_checksums += 1
            return
        except pynmea2.SentenceTypeError:
            self.unknown += 1
            return
        except (pynmea2.ParseError, ValueError, TypeError, AttributeError, IndexError, ArithmeticError):
            self.malformed += 1
            return
        self.good += 1
        if not measured:
            self.unknown += 1
        yield from measured

    def _measure(self, sentence: Any) -> Iterator[Measured]:
        kind = str(getattr(sentence, "sentence_type", ""))
        if kind == "DPT":
            depth = _number(sentence.depth)
            if depth is not None:
                # A positive offset is the distance from transducer to waterline: depth counts from the surface.
                yield from _kept(Measured("depth", depth + max(_number(sentence.offset) or 0.0, 0.0)), 0.0, 400.0)
        elif kind == "DBT":
            metres, feet = _number(sentence.depth_meters), _number(sentence.depth_feet)
            depth = metres if metres is not None else None if feet is None else 0.3048 * feet
            if depth is not None:
                yield from _kept(Measured("depth", depth), 0.0, 400.0)
        elif kind == "MTW":
            value = _number(sentence.temperature)
            if value is not None:
                fahrenheit = str(sentence.units).upper() == "F"
                yield from _kept(Measured("water", (value - 32.0) / 1.8 if fahrenheit else value), -1.0, 40.0)
        elif kind == "MWD":
            speed, knots = _number(sentence.wind_speed_meters), _number(sentence.wind_speed_knots)
            direction = _number(sentence.direction_true)
            speed = speed if speed is not None else None if knots is None else KNOT_MPS * knots
            if speed is not None and direction is not None:
                yield from _kept(Measured("wind", speed, direction % 360.0), 0.0, 60.0)
        elif kind == "MWV":
            # Only true wind, of an instrument that stands to the north: apparent wind of a moving boat is no wind of the lake.
            value, angle = _number(sentence.wind_speed), _number(sentence.wind_angle)
            factor = {"M": 1.0, "N": KNOT_MPS, "K": 1.0 / 3.6}.get(str(sentence.wind_speed_units).upper())
            true = str(sentence.reference).upper() == "T" and str(sentence.status).upper() == "A"
            if true and value is not None and angle is not None and factor:
                yield from _kept(Measured("wind", value * factor, angle % 360.0), 0.0, 60.0)
        elif kind == "RMC":
            if str(sentence.status).upper() == "A" and sentence.lat and sentence.lon:
                at = sentence.datetime if sentence.datestamp and sentence.timestamp else None
                yield Measured("position", float(sentence.latitude), float(sentence.longitude), _utc(at))
        elif kind == "GGA" and int(sentence.gps_qual or 0) > 0 and sentence.lat and sentence.lon:
            yield Measured("position", float(sentence.latitude), float(sentence.longitude), None)


def _number(value: Any) -> float | None:
    return None if value in (None, "") else float(value)


def _utc(at: datetime | None) -> datetime | None:
    return None if at is None else at.replace(tzinfo=timezone.utc)


def _kept(measured: Measured, low: float, high: float) -> Iterator[Measured]:
    """Yield a measurement within its bounds; one outside them is malformed."""
    if not low <= measured.a <= high:
        raise ValueError
    yield measured


@dataclass(frozen=True, slots=True)
class Sounding:
    """A depth [m] where the boat was [deg]."""

    latitude_deg: float
    longitude_deg: float
    depth_m: float


def soundings_of(measured: Iterable[Measured]) -> list[Sounding]:
    """Return the depths that followed a position, each with the last position before it."""
    here: Measured | None = None
    found: list[Sounding] = []
    for one in measured:
        if one.kind == "position":
            here = one
        elif one.kind == "depth" and here is not None and here.b is not None and one.a > 0.0:
            found.append(Sounding(here.a, here.b, one.a))
    return found


@dataclass(frozen=True, slots=True)
class NmeaLog:
    """A whole log: what it measured in its order, and how many sentences were good, refused or of no use."""

    measured: tuple[Measured, ...]
    good: int
    bad_checksums: int
    malformed: int

    def latest(self, kind: str) -> Measured | None:
        return next((one for one in reversed(self.measured) if one.kind == kind), None)


def read_nmea_log(data: bytes) -> NmeaLog:
    """Return what a log file of NMEA sentences measured; sentences with a wrong checksum are counted and left out.

    Raises
    ------
    BadFile
        Too large, or not one sentence in it that could be read.
    """
    if len(data) > NMEA_MOST_BYTES:
        raise BadFile(f"The log is larger than {NMEA_MOST_BYTES // 1_000_000} MB. Split it.", field="log")
    reader = Reader()
    measured = [*reader.feed(data), *reader.finish()]
    if reader.good == 0:
        refused = reader.bad_checksums + reader.malformed
        text = "There is no NMEA sentence in this file."
        if reader.bad_checksums:
            text = f"None of {refused} sentences could be read: {reader.bad_checksums} have a wrong checksum."
        raise BadFile(text, field="log")
    return NmeaLog(tuple(measured), reader.good, reader.bad_checksums, reader.malformed)


def sentence(talker: str, kind: str, fields: Sequence[str]) -> bytes:
    """Return one NMEA sentence with its checksum and line end.

    Examples
    --------
    >>> sentence("SD", "DPT", ["4.2", "0.3", ""])
    b'$SDDPT,4.2,0.3,*7E\\r\\n'
    """
    body = ",".join([talker + kind, *fields])
    checksum = 0
    for char in body.encode("ascii"):
        checksum ^= char
    return f"${body}*{checksum:02X}\r\n".encode("ascii")
