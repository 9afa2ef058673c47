"""How long a way to fish takes, from one cast, drift or tow to the next."""

from __future__ import annotations

from collections.abc import Callable
from types import MappingProxyType

from stillthread.sourced import Sourced

RECAST_S = Sourced(15.0, "s", "ours", "lift off, back cast, shoot and settle")
RESET_S = Sourced(22.0, "s", "ours", "lift, land the float, mend and let it hang again")
BACK_SHARE = Sourced(0.6, "1", "ours", "time to go back for the next tow, as a share of the tow")

_AFTER_S: MappingProxyType[str, Callable[[float], float]] = MappingProxyType(
    {
        "cast": lambda _: float(RECAST_S),
        "hang": lambda _: float(RESET_S),
        "tow": lambda duration_s: float(BACK_SHARE) * duration_s,
    }
)


def cycle_s(kind: str, duration_s: float) -> float:
    """Return the time [s] from one to the next of what is `duration_s` [s] in the water: a "cast", a "hang" or a "tow".

    Examples
    --------
    >>> cycle_s("cast", 65.0), cycle_s("tow", 180.0)
    (80.0, 288.0)
    """
    return duration_s + _AFTER_S[kind](duration_s)
