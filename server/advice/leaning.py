"""Where the angler's own log comes into what is advised: whoever keeps the log says how, and this asks."""

from __future__ import annotations

from collections.abc import Callable

from accounts.models import User
from stillthread.api import Conditions, Lean

Leaner = Callable[[User, int, Conditions], Lean | None]
_leaners: list[Leaner] = []


def lean_by(leaner: Leaner) -> None:
    """Have what a log says asked of this from now on; the log lies above the advice, and tells it so itself."""
    _leaners[:] = [leaner]


def lean_for(owner: User, water_id: int, conditions: Conditions) -> Lean | None:
    """Return what the angler's log says of days like this one at a water."""
    return next((leaner(owner, water_id, conditions) for leaner in _leaners), None)
