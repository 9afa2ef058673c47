"""Retrieves: how line is taken in, as a rhythm of pulls and pauses."""

from __future__ import annotations

from dataclasses import dataclass, replace
from types import MappingProxyType

from stillthread.errors import BadInput, check_range

FASTEST_RETRIEVE_MPS = 3.0  # ours: a bound
SLOWEST_RETRIEVE_MPS = 0.01  # ours: a bound


@dataclass(frozen=True, slots=True)
class Retrieve:
    """A rhythm: pull for `pull_s`, rest for `pause_s`, so that line comes in at `mean_mps` on average.

    `mean_mps` 0.01 to 3 m/s; a retrieve without pause is steady. `rhythm` says it in words.
    After `longest_s` [s] it ends, whatever is still out. In what is mixed, line goes on coming in through the pause, at
    `between_share` of the pull's speed, 0 to 1.
    """

    key: str
    name: str
    mean_mps: float
    pull_s: float
    pause_s: float
    rhythm: str
    longest_s: float = 600.0
    between_share: float = 0.0

    def __post_init__(self) -> None:
        check_range(
            "retrieve_mps", self.mean_mps, SLOWEST_RETRIEVE_MPS, FASTEST_RETRIEVE_MPS, "m/s", "To hold still, count longer."
        )

    @property
    def pulls(self) -> tuple[tuple[float, float], ...]:
        """The rhythm as (seconds, speed [m/s]) pairs, repeated to the end of the retrieve."""
        if self.pause_s == 0.0:
            return ((self.pull_s, self.mean_mps),)
        pull_mps = self.mean_mps * (self.pull_s + self.pause_s) / (self.pull_s + self.between_share * self.pause_s)
        return ((self.pull_s, pull_mps), (self.pause_s, self.between_share * pull_mps))

    def at_speed(self, mean_mps: float) -> Retrieve:
        """Return the same rhythm at another average speed [m/s]."""
        return replace(self, mean_mps=mean_mps)


# Rhythms and speeds are common practice (about 3 in of line a turn of the hand; strips of 4 to 6 in), no published source.
RETRIEVES: MappingProxyType[str, Retrieve] = MappingProxyType(
    {
        r.key: r
        for r in (
            Retrieve("slow-twist", "Slow hand twist", 0.05, 1.0, 0.0, "a hand's width every two seconds, without a stop"),
            Retrieve("quick-twist", "Quick figure-of-eight", 0.10, 4.0, 1.5, "four quick turns of the hand, then a stop"),
            Retrieve(
                "twist-pulls",
                "Twist with quick pulls",
                0.08,
                0.4,
                5.0,
                "a steady twist, and every five seconds two or three quick pulls",
                between_share=0.12,
            ),
            Retrieve("strip-pause", "Strip and pause", 0.12, 0.5, 1.0, "pull half a second, rest a full second"),
            Retrieve("two-handed", "Two-handed, steady", 0.40, 1.0, 0.0, "rod under the arm, hand over hand, no gaps"),
            Retrieve("short-strips", "Short strips", 0.10, 0.3, 0.7, "a finger's length a second, three and then a look"),
            Retrieve("jerks", "Jerks", 0.15, 0.15, 0.6, "quick nips of line with the wrist, a breath between"),
            Retrieve("long-pull", "Long pull and pause", 0.15, 1.5, 3.0, "an arm's length, then count three"),
            Retrieve("pull-stop", "Pull, then stop", 0.10, 0.8, 4.0, "one pull of a forearm, then count four"),
            Retrieve("lift-hang", "Lift and hang", 0.10, 2.5, 5.0, "draw the fly up for two seconds, let it hang for five"),
            Retrieve("twitch-drop", "Twitch and drop", 0.03, 0.2, 3.8, "one nip, then let it fall for four seconds"),
            Retrieve("static", "Static", 0.01, 1.0, 14.0, "nothing but the slack, a hand's width every quarter minute", 240.0),
        )
    }
)


def retrieve_named(key: str, mean_mps: float | None = None) -> Retrieve:
    """Return the retrieve with this key, at its usual speed or at `mean_mps` [m/s]."""
    if key not in RETRIEVES:
        raise BadInput(f"retrieve {key!r} is not known. Known: {', '.join(RETRIEVES)}.", field="retrieve_key")
    retrieve = RETRIEVES[key]
    return retrieve if mean_mps is None else retrieve.at_speed(mean_mps)
