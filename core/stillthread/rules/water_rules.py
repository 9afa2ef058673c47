"""The rules of a water, as its owner or the law sets them: constraints on every plan, never advice."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Literal

from stillthread.errors import BadInput, StillthreadError, check_range
from stillthread.tackle.rig import Rig

Release = Literal["either", "release-only", "kill-only"]


class AgainstTheRules(StillthreadError):
    """A presentation that the water's rules forbid; the message names the rule."""

    code = "against_the_rules"


@dataclass(frozen=True, slots=True)
class WaterRules:
    """What is allowed. `most_flies` 1 to 4 and `largest_hook` (a small number is a large hook) are None where free.

    `season` is the first and last open day as (month, day), in the order of the year; it may wrap the new year.
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
    season: tuple[tuple[int, int], tuple[int, int]] | None = None

    def __post_init__(self) -> None:
        if self.most_flies is not None:
            check_range("most_flies", self.most_flies, 1, 4, "")
        if self.largest_hook is not None:
            check_range("largest_hook", self.largest_hook, 1, 28, "")
        if self.bag_limit is not None:
            check_range("bag_limit", self.bag_limit, 0, 100, "")
        for month, day in self.season or ():
            try:
                date(2024, month, day)
            except ValueError:
                raise BadInput(f"Season: there is no day {day} in month {month}.", field="season") from None

    def open_on(self, on: date) -> bool:
        """Return whether the water may be fished on a day.

        Examples
        --------
        >>> WaterRules(season=((10, 15), (4, 30))).open_on(date(2026, 1, 3))
        True
        """
        if self.season is None:
            return True
        first, last = self.season
        day = (on.month, on.day)
        return first <= day <= last if first <= last else day >= first or day <= last

    def sentences(self) -> tuple[str, ...]:
        """Return the rules in words, the strictest first; the local rules and the licence always come last and hold."""
        said = []
        if self.season:
            (m1, d1), (m2, d2) = self.season
            said.append(f"Open from {d1} {date(2024, m1, d1):%B} to {d2} {date(2024, m2, d2):%B}.")
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
        if self.release != "either":
            said.append(
                "Every fish goes back." if self.release == "release-only" else "Every fish caught is killed and counts."
            )
        if self.bag_limit is not None:
            said.append(f"Bag limit {self.bag_limit}.")
        return (*said, "Local rules and your licence come first.")


def check_rig(rules: WaterRules, rig: Rig, on: date) -> None:
    """Raise `AgainstTheRules` when a rig may not be fished here on this day."""
    if not rules.open_on(on):
        raise AgainstTheRules(f"This water is closed on {on.day} {on:%B}. {rules.sentences()[0]}", field="at_local")
    if rules.most_flies is not None and len(rig.flies) > rules.most_flies:
        allowed = WaterRules(most_flies=rules.most_flies).sentences()[0]
        raise AgainstTheRules(f"{len(rig.flies)} flies are tied on. {allowed}", field="flies")
    for placed in rig.flies:
        if rules.largest_hook is not None and placed.fly.hook_size < rules.largest_hook:
            allowed = WaterRules(largest_hook=rules.largest_hook).sentences()[0]
            raise AgainstTheRules(f"{placed.fly.name} is on a {placed.fly.hook_size}. {allowed}", field="flies")
