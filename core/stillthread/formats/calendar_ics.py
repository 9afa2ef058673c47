"""The windows of a day as an iCalendar file, for the calendar an angler already has."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timezone

from icalendar import Calendar, Event

from stillthread.errors import BadInput

MOST_WINDOWS = 50  # ours: a bound


@dataclass(frozen=True, slots=True)
class Window:
    """A stretch of time worth knowing; both times carry their zone."""

    begins: datetime
    ends: datetime
    title: str
    words: str = ""
    place: str = ""


def write_calendar(windows: Sequence[Window], place: str, stamped: datetime, most: int = MOST_WINDOWS) -> bytes:
    """Return windows as iCalendar (RFC 5545), in UTC; the same window has the same id every time.

    Raises
    ------
    BadInput
        A window without its zone, one that ends before it begins, or more than `most`.
    """
    if len(windows) > most:
        raise BadInput(f"{len(windows)} windows are more than {most}.", field="windows")
    calendar = Calendar()
    calendar.add("prodid", "-//Still Thread//Day windows//EN")
    calendar.add("version", "2.0")
    for window in windows:
        if window.begins.tzinfo is None or window.ends.tzinfo is None or window.ends <= window.begins:
            raise BadInput(f"{window.title!r} needs a beginning and a later end, each with its zone.", field="windows")
        event = Event()
        where = window.place or place
        known = f"{where}|{window.begins.isoformat()}|{window.title}"
        event.add("uid", f"{hashlib.sha256(known.encode()).hexdigest()[:32]}@still-thread")
        event.add("dtstamp", stamped.astimezone(timezone.utc))
        event.add("dtstart", window.begins.astimezone(timezone.utc))
        event.add("dtend", window.ends.astimezone(timezone.utc))
        event.add("summary", window.title)
        event.add("location", where)
        if window.words:
            event.add("description", window.words)
        calendar.add_component(event)
    return bytes(calendar.to_ical())
