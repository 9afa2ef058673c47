"""When something really happened, as far as a device with a clock of its own can tell."""

from __future__ import annotations

from datetime import datetime, timedelta, timezone
from typing import NamedTuple

from stillthread.sourced import Sourced

CLOCK_ERROR_S = Sourced(60.0, "s", "ours", "a watch may be off by so much; sending takes its time")
LONGEST_SLEEP_S = Sourced(7 * 86_400.0, "s", "ours", "a page may lie in a sleeping pocket, its clock standing still")
_EPOCH = datetime(1970, 1, 1, tzinfo=timezone.utc)  # by definition


class DeviceClock(NamedTuple):
    """What the clocks of a device say as it sends what it wrote down.

    Attributes
    ----------
    written_ms, now_ms : int
        Its wall clock as it was written and as it is sent [ms since 1970].
    ran_ms : int or None
        How long the page's own clock ran in between [ms]; None where the page was opened anew. That clock is never set, but
        stands still while the device sleeps.
    """

    written_ms: int
    now_ms: int
    ran_ms: int | None = None

    def age_s(self) -> float:
        """Return for how long it waited [s], by the clock to be believed.

        The page's own where the wall clock was set meanwhile: that went on by less, or by more than a sleep explains.
        """
        wall = (self.now_ms - self.written_ms) / 1000.0
        if self.ran_ms is None:
            return max(0.0, wall)
        own = self.ran_ms / 1000.0
        return wall if own <= wall <= own + float(LONGEST_SLEEP_S) else own

    def skew(self, received: datetime) -> timedelta:
        """Return what the wall clock lacked when it was written, given when the server `received` it; none for a clock that
        is about right.

        Examples
        --------
        >>> noon = datetime(2026, 7, 14, 12, tzinfo=timezone.utc)
        >>> ahead = int((noon.timestamp() + 600) * 1000)
        >>> DeviceClock(written_ms=ahead - 5000, now_ms=ahead).skew(noon)
        datetime.timedelta(days=-1, seconds=85800)
        """
        written_s = (received - _EPOCH).total_seconds() - self.age_s()
        skew_s = written_s - self.written_ms / 1000.0
        return timedelta(0) if abs(skew_s) <= float(CLOCK_ERROR_S) else timedelta(seconds=round(skew_s))


def put_right(said: datetime, clock: DeviceClock | None, received: datetime) -> datetime:
    """Return when it happened, given when the device `said` so; as said where its clock is not known."""
    if clock is None:
        return said
    try:
        return said + clock.skew(received)
    except OverflowError:
        return said


def is_odd(at: datetime, received: datetime) -> bool:
    """Return whether a logged time can't be true: it lies ahead of when it was received."""
    return at > received + timedelta(seconds=float(CLOCK_ERROR_S))
