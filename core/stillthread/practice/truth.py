"""What is hidden on a practice day. Standard library alone: a device that took the day along plays it with no connection."""

from __future__ import annotations

import random
from collections.abc import Mapping
from dataclasses import asdict, dataclass
from types import MappingProxyType
from typing import Any

DAY_MIN = 240.0  # ours: half a day
BEGINS_H = 9  # ours
# Minutes that a reading costs: common practice of how long each takes, the numbers ours.
READING_MIN = MappingProxyType({"lowering": 6.0, "look": 5.0, "sounding": 4.0, "clarity": 2.0})
MOVE_MIN = 15.0  # common practice; the number is ours
PATCH_MIN, PATCH_OF_MIN = 25.0, 45.0  # ours


def seeded(text: str) -> random.Random:
    """Return chance that is the same for the same text on every machine; for fish, not for secrets."""
    return random.Random(text)  # noqa: S311 - nothing is kept safe by it


@dataclass(frozen=True, slots=True)
class Truth:
    """Where they feed at the beginning and the end [m], how far they rise [m], how many are interested [1/min], which class of
    fly they want (0: any), a second band [m], whether they come and go, and whether the first place is empty."""

    kind: str
    begin_m: float
    end_m: float
    reach_m: float
    rate_pmin: float
    fly: int
    other_m: float | None = None
    patchy: bool = False
    empty: bool = False

    def centre_m(self, at_min: float) -> float:
        """Return where they are [m]: those that move do so from the second hour to half past the third."""
        share = min(max((at_min - 60.0) / 90.0, 0.0), 1.0)
        return round(self.begin_m + (self.end_m - self.begin_m) * share, 2)

    def rate_at(self, at_min: float, place: int = 0) -> float:
        """Return how many are interested [1/min] at the place one has moved to so often."""
        off = (self.empty and place == 0) or (self.patchy and at_min % PATCH_OF_MIN > PATCH_MIN)
        return 0.0 if off else self.rate_pmin


@dataclass(frozen=True, slots=True)
class Hidden:
    """The truth of a day, with the seed and the level that its chance comes from."""

    seed: str
    level: str
    truth: Truth

    @classmethod
    def of(cls, told: Mapping[str, Any]) -> Hidden:
        return cls(str(told["seed"]), str(told["level"]), Truth(**told["truth"]))

    def told(self) -> dict[str, Any]:
        return asdict(self)
