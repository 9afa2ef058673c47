"""iCalendar out: RFC 5545 as a general reader sees it."""

from __future__ import annotations

import unittest
from datetime import datetime, timedelta, timezone

from icalendar import Calendar

from stillthread.errors import BadInput
from stillthread.formats.calendar_ics import Window, write_calendar

SUMMER = timezone(timedelta(hours=2))
DAWN = Window(
    datetime(2026, 7, 14, 4, 0, tzinfo=SUMMER), datetime(2026, 7, 14, 6, 0, tzinfo=SUMMER), "Low light", "up to 2 m; soft"
)
NOW = datetime(2026, 7, 13, 20, 0, tzinfo=timezone.utc)


class CalendarTests(unittest.TestCase):
    def test_a_window_comes_back_in_utc_with_its_words(self) -> None:
        (event,) = Calendar.from_ical(write_calendar([DAWN], "Årvatn, north", NOW)).walk("VEVENT")
        self.assertEqual(event.decoded("dtstart"), datetime(2026, 7, 14, 2, 0, tzinfo=timezone.utc))
        self.assertEqual((str(event["summary"]), str(event["location"])), ("Low light", "Årvatn, north"))
        self.assertEqual(str(event["description"]), "up to 2 m; soft")

    def test_the_same_window_keeps_its_id_so_that_importing_twice_doubles_nothing(self) -> None:
        first, again = (
            Calendar.from_ical(write_calendar([DAWN], "x", at)).walk("VEVENT")[0] for at in (NOW, NOW + timedelta(days=1))
        )
        self.assertEqual(str(first["uid"]), str(again["uid"]))

    def test_refusals(self) -> None:
        for wrong in (
            Window(DAWN.ends, DAWN.begins, "backwards"),
            Window(DAWN.begins.replace(tzinfo=None), DAWN.ends, "no zone"),
        ):
            with self.assertRaises(BadInput):
                write_calendar([wrong], "x", NOW)
        with self.assertRaises(BadInput):
            write_calendar([DAWN] * 51, "x", NOW)
