"""The tables of the trade as plain values, for whatever is written from them."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from stillthread.sourced import Sourced
from stillthread.trade import timing, usual
from stillthread.trade.entries import ENTRY_KINDS
from stillthread.trade.schools import SCHOOLS


def trade_numbers() -> dict[str, float]:
    """Return the usual values, thresholds and times by their names."""
    rooms = (vars(usual), vars(timing))
    return {name: float(value) for room in rooms for name, value in room.items() if isinstance(value, Sourced)}


def entry_kinds() -> dict[str, dict[str, Any]]:
    """Return the kinds of entry by their keys, each with its words and flags."""
    return {key: {name: value for name, value in asdict(kind).items() if name != "key"} for key, kind in ENTRY_KINDS.items()}


def schools() -> list[dict[str, Any]]:
    """Return the schools, each with its key, name, belief and whether a plan may be made by it."""
    names = ("key", "name", "believes", "for_plan")
    return [{name: getattr(school, name) for name in names} for school in SCHOOLS.values()]
