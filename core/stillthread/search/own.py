"""What an angler may change by himself, in two taps: a count, a float, a pace, a fly on a seat, the line. Each is a step as the
search would propose it, with what is expected of it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

from stillthread.search.presentation import Presentation

COUNT, FLOAT, PACE, FLY, LINE = "count", "float", "pace", "fly", "line"
TURNS = (COUNT, FLOAT, PACE, FLY, LINE)
MOST_OF = {COUNT: 8, FLOAT: 6, PACE: 4, FLY: 8, LINE: 6}  # ours: what is read at a glance; of flies, on each seat


@dataclass(frozen=True, slots=True)
class OwnChange:
    """A change by hand: what it `turns`, on which `seat` where it is a fly, and how it is then fished."""

    turns: str
    seat: int | None
    to: Presentation


def own_changes(
    now: Presentation,
    steps: Iterable[Presentation],
    options: Iterable[Presentation],
    rate: Callable[[Presentation], float],
    tied_before: Sequence[str] = (),
) -> list[OwnChange]:
    """Return what may be changed: turned by hand in the order of the dial, flies that were `tied_before` first and then by
    what is expected of them, of each other line its best by `rate`."""
    found: dict[str, list[OwnChange]] = {turns: [] for turns in TURNS}
    for one in steps:
        seats = [i for i, (a, b) in enumerate(zip(one.flies, now.flies, strict=False)) if a.name != b.name]
        turned = _turned(one, now)
        if turned and not seats:
            found[turned].append(OwnChange(turned, None, one))
        elif len(seats) == 1 and not turned:
            found[FLY].append(OwnChange(FLY, seats[0], one))
    found[COUNT].sort(key=lambda one: one.to.count_s)
    found[FLOAT].sort(key=lambda one: one.to.float_m or 0.0)
    found[PACE].sort(key=lambda one: one.to.pace_mps)
    flies: list[OwnChange] = []
    for seat in range(len(now.flies)):
        here = [one for one in found[FLY] if one.seat == seat]
        here.sort(key=lambda one: (one.to.flies[seat].name not in tied_before, -rate(one.to), one.to.key))
        flies += here[: MOST_OF[FLY]]
    lines: dict[str, Presentation] = {}
    for one in options:
        if one.line != now.line and (one.line not in lines or rate(one) > rate(lines[one.line])):
            lines[one.line] = one
    best = sorted(lines.values(), key=lambda one: (-rate(one), one.key))
    found |= {FLY: flies, LINE: [OwnChange(LINE, None, one) for one in best]}
    return [one for turns in TURNS for one in (found[turns] if turns == FLY else found[turns][: MOST_OF[turns]])]


def _turned(one: Presentation, now: Presentation) -> str | None:
    """Return what a hand turned between two ways on one line, None where nothing or several things."""
    turned = [
        turns
        for turns, differs in (
            (COUNT, one.count_s != now.count_s),
            (FLOAT, one.float_m != now.float_m),
            (PACE, one.pace_mps != now.pace_mps),
        )
        if differs
    ]
    return turned[0] if len(turned) == 1 else None
