"""Speeds were kept as `_ms` once, which is also read as milliseconds: what was written then, under the names of now."""

from __future__ import annotations

import re
from typing import Any

RENAMED = {
    f"{quantity}_ms": f"{quantity}_mps"
    for quantity in ("wind_speed", "wind", "speed", "tip", "tip_y", "tow", "drift", "cross_drift", "boat_drift", "tip_speed")
}


_PLACE = re.compile(r"\{(\w+)\}")


def in_mps(value: Any) -> Any:
    """Return a JSON value with the speeds in it under their names of now, also where a list names them as not read, or the
    text of a phrase speaks of one."""
    return _renamed(value, RENAMED)


def in_ms(value: Any) -> Any:
    """Return a JSON value as it was kept once: to undo, and to test the way from there."""
    return _renamed(value, {now: once for once, now in RENAMED.items()})


def _renamed(value: Any, names: dict[str, str]) -> Any:
    if isinstance(value, dict):
        return {names.get(key, key): _BY_KEY.get(key, _renamed)(one, names) for key, one in value.items()}
    if isinstance(value, list):
        return [_renamed(one, names) for one in value]
    return value


def _listed(value: Any, names: dict[str, str]) -> Any:
    return [names.get(one, one) if isinstance(one, str) else one for one in value] if isinstance(value, list) else value


def _spoken(value: Any, names: dict[str, str]) -> Any:
    return _PLACE.sub(lambda found: f"{{{names.get(found[1], found[1])}}}", value) if isinstance(value, str) else value


_BY_KEY = {"assumed": _listed, "text": _spoken}
