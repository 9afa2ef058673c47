"""The rules of a water, as its owner or the law sets them: constraints on every plan, never advice."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Literal

from stillthread.errors import BadInput, StillthreadError
from stillthread.ranges import BAG_LIMIT, LARGEST_HOOK, MOST_FLIES
from stillthread.rules.method_names import METHOD_NAMES

LURE_STYLES = frozenset({"lure", "attractor"})
Release = Literal["either", "release-only", "kill-only"]


class AgainstTheRules(StillthreadError):
    """A presentation that the water's rules forbid; the message names the rule."""

    code = "against_the_rules"


# First and last day as (month, day), in the order of the year; they may wrap the new year.
Days = tuple[tuple[int, int], tuple[int, int]]


@dataclass(frozen=True, slots=True)
class MethodBan:
    """A method, by its key of `METHODS`, that is not allowed on these days, or never."""

    method_key: str
    days: Days | None = None

    def __post_init__(self) -> None:
        if self.method_key not in METHOD_NAMES:
            raise BadInput(f"method {self.method_key!r} is not known. Known: {', '.join(METHOD_NAMES)}.", field="method_key")
        _check_days(self.days, "method_bans")

    @property
    def sentence(self) -> str:
        return f"{METHOD_NAMES[self.method_key]}: not allowed{self._when}."

    @property
    def why_not(self) -> str:
        """Why the method can't be fished, without its name."""
        return f"Not allowed on this water{self._when}."

    @property
    def _when(self) -> str:
        return f" from {_day_words(self.days[0])} to {_day_words(self.days[1])}" if self.days else ""


def _check_days(days: Days | None, field: str) -> None:
    for month, day in days or ():
        try:
            date(2024, month, day)
        except ValueError:
            raise BadInput(f"{field.capitalize()}: there is no day {day} in month {month}.", field=field) from None


def _day_words(month_day: tuple[int, int]) -> str:
    return f"{month_day[1]} {date(2024, *month_day):%B}"


def _within(on: date, days: Days) -> bool:
    (first, last), day = days, (on.month, on.day)
    return first <= day <= last if first <= last else day >= first or day <= last


@dataclass(kw_only=True, frozen=True, slots=True)
class WaterRules:
    """What is allowed. `most_flies` 1 to 4 and `largest_hook` (a small number is a large hook) are None where free.

    `season` is the first and last open day; `method_bans` are methods that are closed by date or for good.
    """

    most_flies: int | None = None
    largest_hook: int | None = None
    barbless: bool = False
    indicators: bool = True
    static_buoyant: bool = True
    lures: bool = True
    boats: bool = True
    float_tubes: bool = True
    wading: bool = True
    release: Release = "either"
    bag_limit: int | None = None
    season: Days | None = None
    method_bans: tuple[MethodBan, ...] = ()

    def __post_init__(self) -> None:
        if self.most_flies is not None:
            MOST_FLIES.check("most_flies", self.most_flies)
        if self.largest_hook is not None:
            LARGEST_HOOK.check("largest_hook", self.largest_hook)
        if self.bag_limit is not None:
            BAG_LIMIT.check("bag_limit", self.bag_limit)
        _check_days(self.season, "season")

    def allows_fly(self, hook_size: int, style: str) -> bool:
        """Return whether a fly may be used: an attractor is a lure where lures are not allowed."""
        if self.largest_hook is not None and hook_size < self.largest_hook:
            return False
        return self.lures or style not in LURE_STYLES

    def open_on(self, on: date) -> bool:
        """Return whether the water may be fished on a day.

        Examples
        --------
        >>> WaterRules(season=((10, 15), (4, 30))).open_on(date(2026, 1, 3))
        True
        """
        return self.season is None or _within(on, self.season)

    def ban_on(self, method_key: str, on: date) -> MethodBan | None:
        """Return the ban that closes a method on a day, or None."""
        bans = (ban for ban in self.method_bans if ban.method_key == method_key)
        return next((ban for ban in bans if ban.days is None or _within(on, ban.days)), None)

    def sentences(self) -> tuple[str, ...]:
        """Return the rules in words, the strictest first; the local rules and the licence always come last and hold."""
        said = []
        if self.season:
            said.append(f"Open from {_day_words(self.season[0])} to {_day_words(self.season[1])}.")
        if self.most_flies:
            said.append(f"At most {self.most_flies} {'fly' if self.most_flies == 1 else 'flies'}.")
        if self.largest_hook:
            said.append(f"No hook larger than {self.largest_hook}.")
        if self.barbless:
            said.append("Barbless hooks only.")
        banned = {
            "indicators": self.indicators,
            "buoyant flies fished still": self.static_buoyant,
            "lures": self.lures,
            "boats": self.boats,
            "float tubes": self.float_tubes,
            "wading": self.wading,
        }
        none = [name for name, allowed in banned.items() if not allowed]
        if none:
            said.append(f"Not allowed: {', '.join(none)}.")
        said += [ban.sentence for ban in self.method_bans]
        if self.release != "either":
            said.append(
                "Every fish goes back." if self.release == "release-only" else "Every fish caught is killed and counts."
            )
        if self.bag_limit is not None:
            said.append(f"Bag limit {self.bag_limit}.")
        return (*said, "Local rules and your licence come first.")
