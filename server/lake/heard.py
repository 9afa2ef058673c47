"""What was read of a water, asked of whoever keeps it: the log, in its own app above this one."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from stillthread.api import Reading
    from waters.models import Water


@dataclass(frozen=True)
class Heard:
    """What somebody read of a water at a moment: temperatures, and oxygen as (depth [m], mg/L)."""

    at: datetime
    readings: tuple[Reading, ...]
    oxygen: tuple[tuple[float, float], ...] = ()


Source = Callable[["Water", datetime, datetime], Sequence[Heard]]
_sources: list[Source] = []


def heard_from(source: Source) -> None:
    """Let readings be asked of whoever keeps them."""
    _sources.append(source)


def heard(water: Water, begin: datetime, end: datetime) -> list[Heard]:
    """Return what was read of a water between two moments, in order."""
    return sorted((one for source in _sources for one in source(water, begin, end)), key=lambda one: one.at)
