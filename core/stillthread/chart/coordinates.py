"""A place as people write it: decimal degrees, degrees and minutes, or a geo: address.

Strict on purpose: a place read wrongly is silently a wrong sun, season and clock, so whatever could mean two places is refused.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from stillthread.errors import BadInput
from stillthread.ranges import ALTITUDE_M, LATITUDE_DEG, LONGITUDE_DEG

MOST_LETTERS = 200  # ours: no written place is longer
_GEO = re.compile(r"geo:\s*([^;?]+)", re.IGNORECASE)
_MARKS = str.maketrans(dict.fromkeys("°º˚D:'′’´\"″”", " ") | {"−": "-", "–": "-"})
_NUMBER = re.compile(r"[+-]?\d+(?:\.\d+)?")
_LEFT = re.compile(r"[+-]?\d+(?:\.\d+)?|[NSEW]")
# A comma within a number: a digit on both sides, and no dot anywhere in the text.
_DECIMAL_COMMA = re.compile(r"(?<=\d),(?=\d)")
_WORDS = re.compile(r"\b(LAT|LON)(?:G|ITUDE|GITUDE)?\b[ :=]*")
_SHARES = (1.0, 60.0, 3600.0)  # by definition: degrees, minutes, seconds

HOW = 'Write a place as "61.2, 8.5", "61° 12.3′ N 8° 30.5′ E" or "geo:61.2,8.5".'


@dataclass(frozen=True, slots=True)
class WrittenPlace:
    """Degrees, south and west negative; `altitude_m` where a geo: address gave it."""

    latitude_deg: float
    longitude_deg: float
    altitude_m: float | None = None


def read_place(text: str) -> WrittenPlace:
    """Return the place that `text` writes.

    Taken: decimal degrees with a sign or a letter of N, S, E, W before or after; degrees and minutes, or degrees, minutes and
    seconds, with or without their marks, in either order where letters say which is which; a decimal comma where no dot stands;
    a geo: URI (RFC 5870) with or without an altitude. Without letters the latitude comes first.

    Raises
    ------
    BadInput
        With field "text": nothing that is a place, or something that could be two.
    """
    if len(text) > MOST_LETTERS:
        raise _unread("That is too long for a place.")
    geo = _GEO.match(text.strip())
    if geo:
        return _read_geo(geo[1])
    plain = text.strip().upper()
    if [word[1] for word in _WORDS.finditer(plain)] not in ([], ["LAT", "LON"]):
        raise _unread("The latitude comes first.")
    plain = _WORDS.sub(" ", plain).translate(_MARKS)
    if "." not in plain and _DECIMAL_COMMA.search(plain) and len(_NUMBER.findall(_DECIMAL_COMMA.sub(".", plain))) >= 2:
        plain = _DECIMAL_COMMA.sub(".", plain)
    plain = re.sub(r"[,;/|()]", " ", plain)
    tokens = _LEFT.findall(plain)
    if "".join(tokens) != re.sub(r"\s", "", plain) or not tokens:
        raise _unread()
    letters = [token for token in tokens if token.isalpha()]
    first, second = _lettered(tokens, letters) if letters else _halves(tokens)
    if letters and letters[0] in "EW":
        first, second = second, first
    return _placed(first, second, None)


def _read_geo(body: str) -> WrittenPlace:
    parts = [part.strip() for part in body.split(",")]
    if len(parts) not in (2, 3) or not all(_NUMBER.fullmatch(part) for part in parts):
        raise _unread()
    return _placed(float(parts[0]), float(parts[1]), float(parts[2]) if len(parts) == 3 else None)


def _lettered(tokens: list[str], letters: list[str]) -> tuple[float, float]:
    """Return both angles where each has a letter, before it or after it."""
    if len(letters) != 2 or (letters[0] in "NS") == (letters[1] in "NS"):
        raise _unread("One of N and S, and one of E and W, is needed.")
    if tokens[0].isalpha():
        cut = next(i for i, token in enumerate(tokens) if i and token.isalpha())
        groups = [(tokens[0], tokens[1:cut]), (tokens[cut], tokens[cut + 1 :])]
    elif tokens[-1].isalpha():
        cut = next(i for i, token in enumerate(tokens) if token.isalpha())
        groups = [(tokens[cut], tokens[:cut]), (tokens[-1], tokens[cut + 1 : -1])]
    else:
        raise _unread()
    found = []
    for letter, numbers in groups:
        if any(number[0] in "+-" for number in numbers):
            raise _unread("A sign and a letter say the same thing twice.")
        found.append(_angle(numbers) * (-1.0 if letter in "SW" else 1.0))
    return found[0], found[1]


def _halves(tokens: list[str]) -> tuple[float, float]:
    """Return both angles where no letters stand: as many numbers for one as for the other."""
    if len(tokens) not in (2, 4, 6):
        raise _unread()
    half = len(tokens) // 2
    return _angle(tokens[:half]), _angle(tokens[half:])


def _angle(numbers: list[str]) -> float:
    if not 1 <= len(numbers) <= 3:
        raise _unread()
    if any("." in number for number in numbers[:-1]) or any(number[0] in "+-" for number in numbers[1:]):
        raise _unread("Only the last of degrees, minutes and seconds has a fraction, and only the first a sign.")
    sizes = [abs(float(number)) for number in numbers]
    if any(size >= 60.0 for size in sizes[1:]):
        raise _unread("Minutes and seconds lie below 60.")
    total = sum(size / share for size, share in zip(sizes, _SHARES, strict=False))
    return -total if numbers[0].startswith("-") else total


def _placed(latitude_deg: float, longitude_deg: float, altitude_m: float | None) -> WrittenPlace:
    if abs(latitude_deg) > LATITUDE_DEG.high and abs(longitude_deg) <= LATITUDE_DEG.high:
        raise _unread("The latitude comes first, or say which is which with N, S, E and W.")
    if not LATITUDE_DEG.holds(latitude_deg) or not LONGITUDE_DEG.holds(longitude_deg):
        raise _unread("No place lies there: latitude to 90 degrees, longitude to 180.")
    if altitude_m is not None and not ALTITUDE_M.holds(altitude_m):
        altitude_m = None
    return WrittenPlace(latitude_deg, longitude_deg, altitude_m)


def written(place: WrittenPlace) -> str:
    """Return a place as degrees and minutes to a thousandth of a minute, two metres, the way a plotter shows it."""
    return f"{_written(place.latitude_deg, 'NS')} {_written(place.longitude_deg, 'EW')}"


def _written(deg: float, letters: str) -> str:
    whole, thousandths = divmod(round(abs(deg) * 60_000.0), 60_000)
    return f"{whole}° {thousandths / 1000.0:06.3f}′ {letters[0] if deg >= 0.0 or math.isclose(deg, 0.0) else letters[1]}"


def _unread(why: str = "") -> BadInput:
    return BadInput(f"{why} {HOW}".strip(), field="text")
