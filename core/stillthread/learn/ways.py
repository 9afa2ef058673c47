"""How something was fished, in the word anglers would use, and what was changed from one presentation to the next."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from stillthread.phrase import Phrase
from stillthread.sourced import Sourced
from stillthread.tackle.lines import INCH_M, Line

INTERMEDIATE_MPS = Sourced(2.2 * INCH_M, "m/s", "common-practice", "lines up to two inches a second are called intermediates")
BY_KIND = {"hang": "Float", "tow": "Tow"}
WAYS = ("Float", "Floating line", "Sink tip", "Intermediate", "Sinker", "Tow")


def way_of(line: Line, kind: str) -> str:
    """Return how a line was fished: under a float, towed, or cast on a line of some kind.

    Examples
    --------
    >>> from stillthread.tackle.lines import line_of_class
    >>> way_of(line_of_class("type-3"), "cast"), way_of(line_of_class("floating"), "hang")
    ('Sinker', 'Float')
    """
    if kind in BY_KIND:
        return BY_KIND[kind]
    if line.tips:
        return "Sink tip"
    if line.floats:
        return "Floating line"
    return "Intermediate" if line.sink_rate_mps <= float(INTERMEDIATE_MPS) else "Sinker"


@dataclass(kw_only=True, frozen=True, slots=True)
class Setup:
    """What was fished, as far as it can be changed."""

    line: str
    leader: str
    flies: tuple[str, ...]
    kind: str
    retrieve: str | None = None
    pace_mps: float | None = None
    count_s: float | None = None
    set_depth_m: float | None = None


_SLOWER = 0.1  # ours: a pace or a depth that differs by less than this share is the same


def changed(before: Setup, after: Setup) -> tuple[str, ...]:
    """Return the names of what was changed, the dearest first."""
    found = []
    if before.kind != after.kind:
        found.append("method")
    if before.line != after.line:
        found.append("line")
    if before.leader != after.leader and before.line == after.line:
        found.append("leader")
    if before.flies != after.flies:
        found.append("fly" if len(before.flies) == len(after.flies) == 1 else "flies")
    if _moved(before.set_depth_m, after.set_depth_m):
        found.append("depth of the float")
    if before.retrieve != after.retrieve and before.kind == after.kind:
        found.append("retrieve")
    elif _moved(before.pace_mps, after.pace_mps):
        found.append("pace")
    # Another line is counted down otherwise: that is no change of its own.
    if before.line == after.line and _moved(before.count_s, after.count_s):
        found.append("count")
    return tuple(found)


def _moved(before: float | None, after: float | None) -> bool:
    if before is None or after is None:
        return False
    return abs(after - before) > _SLOWER * max(abs(before), abs(after), 1e-9)


_NUMBERS = {2: "two", 3: "three", 4: "four", 5: "five"}  # by definition


def changed_words(what: Sequence[str]) -> Phrase | None:
    """Return what was changed in a sentence; of several at once, that nobody can tell which of them did it."""
    if not what:
        return None
    listed = what[0] if len(what) == 1 else f"{', '.join(what[:-1])} and {what[-1]}"
    if len(what) == 1:
        return Phrase(f"Changed: {listed}.")
    many = _NUMBERS.get(len(what), "many").capitalize()
    return Phrase(f"{many} things changed at once: {listed}. What followed is of all of them.")
