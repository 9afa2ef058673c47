"""When it happened, by a device whose clock is wrong: hand-worked."""

from __future__ import annotations

import unittest
from datetime import datetime, timedelta, timezone

from stillthread.log.clocks import DeviceClock, is_odd, put_right

NOON = datetime(2026, 7, 14, 12, tzinfo=timezone.utc)
MINUTE_MS, HOUR_MS, DAY_MS = 60_000, 3_600_000, 86_400_000


def ms(at: datetime) -> int:
    return round(at.timestamp() * 1000)


class ClockTests(unittest.TestCase):
    def test_a_clock_about_right_is_left_alone(self) -> None:
        for off_s in (-55, 0, 55):
            with self.subTest(off_s=off_s):
                said = NOON - timedelta(hours=2) + timedelta(seconds=off_s)
                clock = DeviceClock(ms(said), ms(NOON) + off_s * 1000)
                self.assertEqual(put_right(said, clock, NOON), said)

    def test_a_clock_that_is_wrong_all_along_is_put_right_however_long_it_waited(self) -> None:
        for off in (timedelta(minutes=10), timedelta(days=-20_000), timedelta(days=400)):
            for waited in (timedelta(0), timedelta(hours=7), timedelta(days=30)):
                with self.subTest(off=off, waited=waited):
                    said = NOON - waited + off
                    for ran in (None, min(ms(NOON) - ms(NOON - waited), 6 * DAY_MS)):
                        clock = DeviceClock(ms(said), ms(NOON + off), ran if waited < timedelta(days=7) else None)
                        self.assertEqual(put_right(said, clock, NOON), NOON - waited)

    def test_a_clock_set_before_it_was_sent_shows_against_the_pages_own(self) -> None:
        happened = NOON - timedelta(hours=2)
        # Ten minutes ahead as it was written, and right again as it is sent; then one that began in 1970.
        for said in (happened + timedelta(minutes=10), datetime(1970, 1, 2, tzinfo=timezone.utc)):
            with self.subTest(said=said):
                self.assertEqual(put_right(said, DeviceClock(ms(said), ms(NOON), 2 * HOUR_MS), NOON), happened)
        # Set back so far that it would be sent before it was written, and the page is a new one: as it was received.
        said = NOON + timedelta(hours=3)
        self.assertEqual(put_right(said, DeviceClock(ms(said), ms(NOON)), NOON), NOON)

    def test_a_page_that_slept_goes_by_the_wall(self) -> None:
        said = NOON - timedelta(hours=9)
        self.assertEqual(put_right(said, DeviceClock(ms(said), ms(NOON), MINUTE_MS), NOON), said)

    def test_what_is_not_known_and_what_has_no_room_stays_as_said(self) -> None:
        self.assertEqual(put_right(NOON, None, NOON), NOON)
        last = datetime.max.replace(tzinfo=timezone.utc)
        self.assertEqual(put_right(last, DeviceClock(0, 0), NOON), last)

    def test_odd_is_what_lies_ahead_of_when_it_came(self) -> None:
        self.assertFalse(is_odd(NOON, NOON))
        self.assertFalse(is_odd(NOON + timedelta(seconds=59), NOON))
        self.assertTrue(is_odd(NOON + timedelta(minutes=2), NOON))
