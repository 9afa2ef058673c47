"""What a school of thought would look at next, of all that could be fished; and the angler's own clock."""

from __future__ import annotations

from collections.abc import Sequence

from stillthread.search.presentation import Exposed
from stillthread.trade.schools import SCHOOLS, Step


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
    every = list(options)
    clock = now is not None and quiet_min >= most_min
    looked_at = [o for o in every if not _alike(o, now)] if clock and now is not None else every
    steps = [_step(o, now) for o in looked_at]
    kept = SCHOOLS[school].kept(steps, searching=searching and now is not None)
    return [looked_at[i] for i in kept] or looked_at or every


def _step(one: Exposed, now: Exposed | None) -> Step:
    still = one.one.float_m is not None
    if now is None:
        return Step(0.0, same_flies=True, same_line=True, same=True, still=still)
    return Step(
        middle_m(one) - middle_m(now), same_flies=_flies(one) == _flies(now), same_line=one.one.line == now.one.line,
        same=one.one.key == now.one.key, still=still,
    )  # fmt: skip


def _alike(one: Exposed, now: Exposed) -> bool:
    """Whether two come to the same for the fish: the same flies at about the same depth."""
    step = _step(one, now)
    return step.same or (step.same_flies and step.same_depth)


def _flies(one: Exposed) -> tuple[str, ...]:
    return tuple(fly.name for fly in one.one.flies)
