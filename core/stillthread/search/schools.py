"""Schools of searching: which changes an angler wants to be told of, and his own clocks."""

from __future__ import annotations

from collections.abc import Sequence

from stillthread.search.presentation import Exposed

SAME_M = 0.35
SCHOOLS = ("best", "depth-first", "fly-first", "bottom-up", "top-down", "static", "stay")


def middle_m(one: Exposed) -> float:
    """Return the mean depth of the point fly over a cast [m]."""
    return sum(minutes * depths[0] for minutes, depths in one.spans) / sum(minutes for minutes, _ in one.spans)


def leaned(
    options: Sequence[Exposed],
    now: Exposed | None,
    school: str,
    *,
    searching: bool,
    quiet_min: float,
    most_min: float,
) -> list[Exposed]:
    """Return what the school would look at next; all of it where that leaves nothing.

    `searching` until something has come to what is fished now; `quiet_min` minutes in which nothing did, `most_min` of them
    before the angler's own clock says to change.
    """
    kept = list(options)
    if now is not None and quiet_min >= most_min:
        other = [o for o in kept if o.one.key != now.one.key and not _alike(o, now)]
        return _of_school(other, now, school, searching) or other or kept
    return _of_school(kept, now, school, searching) or kept


def _alike(a: Exposed, b: Exposed) -> bool:
    """Whether two come to the same for the fish: the same flies at about the same depth."""
    return _flies(a) == _flies(b) and abs(middle_m(a) - middle_m(b)) < SAME_M


def _flies(one: Exposed) -> tuple[str, ...]:
    return tuple(fly.name for fly in one.one.flies)


def _of_school(options: list[Exposed], now: Exposed | None, school: str, searching: bool) -> list[Exposed]:
    if school == "static":
        return [o for o in options if o.one.float_m is not None]
    if now is None or not searching:
        return options if school != "stay" or now is None else [o for o in options if o.one.key == now.one.key]
    if school == "stay":
        return [o for o in options if o.one.line == now.one.line]
    if school == "depth-first":
        return [o for o in options if _flies(o) == _flies(now)]
    if school == "fly-first":
        return [o for o in options if abs(middle_m(o) - middle_m(now)) < SAME_M]
    if school == "bottom-up":
        return [o for o in options if middle_m(o) <= middle_m(now) + SAME_M]
    if school == "top-down":
        return [o for o in options if middle_m(o) >= middle_m(now) - SAME_M]
    return options
