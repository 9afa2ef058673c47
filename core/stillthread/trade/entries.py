"""The kinds of entry that a log has, and what each says: whether it belongs to a cast, ends one, is a fish."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from types import MappingProxyType


@dataclass(frozen=True, slots=True)
class EntryKind:
    """A kind of entry, with the `words` that a log has for it.

    Attributes
    ----------
    of_cast : bool
        It says something of the cast that is in the water; what is not may stand between a take and its end.
    outcome : bool
        It is something that came of a cast: what a log may be put right to.
    ends_cast : bool
        After it the cast is over.
    felt : bool
        Something touched the fly: it has a depth, the fly's own at that moment.
    fish : bool
        A fish took.
    ends_fish : bool
        It tells how a fish ended: right after its take it is the same fish.
    of_water : bool
        It is so whatever is tied on.
    depth_told : bool
        It comes with a depth that was seen or told, not worked out.
    has_depth : bool
        There is a depth in it at all.
    came_near : bool
        A fish came to the fly and would not have it.
    of_line : bool
        It says something of the line and nothing of fish: the search does not hear of it.
    """

    key: str
    words: str
    of_cast: bool = False
    outcome: bool = False
    ends_cast: bool = False
    felt: bool = False
    fish: bool = False
    ends_fish: bool = False
    of_water: bool = False
    depth_told: bool = False
    has_depth: bool = True
    came_near: bool = False
    of_line: bool = False


def _fish(key: str, words: str, *, ends_fish: bool = False) -> EntryKind:
    return EntryKind(key, words, of_cast=True, outcome=True, ends_cast=True, felt=True, fish=True, ends_fish=ends_fish)


ENTRY_KINDS: MappingProxyType[str, EntryKind] = MappingProxyType(
    {
        kind.key: kind
        for kind in (
            EntryKind("cast", "Cast", of_cast=True),
            EntryKind("nothing", "Nothing", of_cast=True, outcome=True, ends_cast=True),
            EntryKind("knock", "Knock", of_cast=True, outcome=True, felt=True),
            _fish("take", "Take"),
            _fish("lost", "Lost", ends_fish=True),
            _fish("landed", "Landed", ends_fish=True),
            EntryKind("follow", "Follow", of_water=True, depth_told=True, came_near=True),
            EntryKind("refused", "Refused", of_water=True, depth_told=True, came_near=True),
            EntryKind("seen", "Fish seen", of_water=True, depth_told=True),
            EntryKind("told", "Other rod’s fish", of_water=True, depth_told=True),
            EntryKind("catching", "Others catch", of_water=True, has_depth=False),
            EntryKind("place", "New place", of_water=True, has_depth=False),
            EntryKind("touched", "Bottom", of_line=True),
        )
    }
)


def _with(flag: str) -> frozenset[str]:
    return frozenset(key for key, kind in ENTRY_KINDS.items() if getattr(kind, flag))


OF_CAST, OUTCOMES, ENDS_CAST, FELT = _with("of_cast"), _with("outcome"), _with("ends_cast"), _with("felt")
FISH, ENDS_FISH = _with("fish"), _with("ends_fish")
OF_WATER, DEPTH_TOLD = _with("of_water"), _with("depth_told")
CAME_NEAR, OF_LINE = _with("came_near"), _with("of_line")
THOUGHT_OF = tuple(key for key in ENTRY_KINDS if key not in OF_LINE)
"""What the search is told of."""


def same_fish(before: str | None, kind: str) -> bool:
    """Return whether an entry of a cast tells of the fish that the one `before` it was the take of."""
    return kind in ENDS_FISH and before in FISH and before not in ENDS_FISH


def fish_among(kinds: Sequence[str]) -> list[int]:
    """Return which entries of one presentation, in order, are fish: one that is lost or landed right after its take was logged
    is the same fish, and counts by its end, whatever was seen or told meanwhile.

    Examples
    --------
    >>> fish_among(["cast", "take", "landed", "cast", "lost", "cast", "take"])
    [2, 4, 6]
    """
    own = [i for i, kind in enumerate(kinds) if kind in OF_CAST]
    told_on = {i for i, then in pairwise(own) if same_fish(kinds[i], kinds[then])}
    return [i for i in own if kinds[i] in FISH and i not in told_on]
