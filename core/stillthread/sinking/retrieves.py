"""Retrieves: how line is taken in, as a rhythm of pulls and pauses."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType

from stillthread.errors import BadInput, check_range

FASTEST_RETRIEVE_MPS = 3.0
SLOWEST_RETRIEVE_MPS = 0.01


@dataclass(frozen=True, slots=True)
class Retrieve:
    """A rhythm: pull for `pull_s`, rest for `pause_s`, so that line comes in at `mean_mps` on average.

    `mean_mps` 0.01 to 3 m/s; a retrieve without pause is steady. `rhythm` says it in words.
    """

    key: str
    name: str
    mean_mps: float
    pull_s: float
    pause_s: float
    rhythm: str

    def __post_init__(self) -> None:
        check_range(
            "retrieve_mps", self.mean_mps, SLOWEST_RETRIEVE_MPS, FASTEST_RETRIEVE_MPS, "m/s", "To hold still, count longer."
        )

    @property
    def pulls(self) -> tuple[tuple[float, float], ...]:
        """The rhythm as (seconds, speed [m/s]) pairs, repeated to the end of the retrieve."""
        if self.pause_s == 0.0:
            return ((self.pull_s, self.mean_mps),)
        return ((self.pull_s, self.mean_mps * (self.pull_s + self.pause_s) / self.pull_s), (self.pause_s, 0.0))

    def at_speed(self, mean_mps: float) -> Retrieve:
        """Return the same rhythm at another average speed [m/s]."""
        return Retrieve(self.key, self.name, mean_mps, self.pull_s, self.pause_s, self.rhythm)


# Rhythms and speeds are common practice (about 3 in of line a turn of the hand; strips of 4 to 6 in), no published source.
RETRIEVES: MappingProxyType[str, Retrieve] = MappingProxyType(
    {
        r.key: r
        for r in (
            Retrieve("slow-twist", "Slow hand twist", 0.05, 1.0, 0.0, "a hand's width every two seconds, without a stop"),
            Retrieve("strip-pause", "Strip and pause", 0.12, 0.5, 1.0, "pull half a second, rest a full second"),
            Retrieve("two-handed", "Two-handed, steady", 0.40, 1.0, 0.0, "rod under the arm, hand over hand, no gaps"),
        )
    }
)


def retrieve_named(key: str, mean_mps: float | None = None) -> Retrieve:
    """Return the retrieve with this key, at its usual speed or at `mean_mps` [m/s]."""
    if key not in RETRIEVES:
        raise BadInput(f"retrieve {key!r} is not known. Known: {', '.join(RETRIEVES)}.", field="retrieve_key")
    retrieve = RETRIEVES[key]
    return retrieve if mean_mps is None else retrieve.at_speed(mean_mps)
