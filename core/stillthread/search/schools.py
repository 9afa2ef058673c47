"""What a school of thought would look at next, of all that could be fished; and the angler's own clock."""

from __future__ import annotations

from collections.abc import Sequence

from stillthread.search.presentation import Exposed
from stillthread.trade.schools import SCHOOLS, Step

HARDLY_MPS = 0.035  # common practice: slower than a slow twist, a fly hangs more than it moves


def leaned(
    options: Sequence[Exposed], now: Exposed | None, school: str, *, searching: bool, clock: bool
) -> tuple[list[Exposed], bool]:
    """Return what the school would look at next, all of it where that leaves nothing; and whether it holds with what is fished.

    `searching` until something has come to what is fished now; `clock` whether the angler's own says to change.
    """
    every = list(options)
    looked_at = [o for o in every if not _alike(o, now)] if clock and now is not None else every
    steps = [_step(o, now) for o in looked_at]
    of = SCHOOLS[school]
    kept = of.kept(steps, searching=searching and now is not None)
    return [looked_at[i] for i in kept] or looked_at or every, now is None or of.holds(_step(now, now))


def _step(one: Exposed, now: Exposed | None) -> Step:
    still = one.one.still or one.one.pace_mps < HARDLY_MPS
    if now is None:
        return Step(0.0, same_flies=True, same_line=True, same=True, still=still)
    return Step(
        one.one.works_m - now.one.works_m, same_flies=_flies(one) == _flies(now), same_line=one.one.line == now.one.line,
        same=one.one.key == now.one.key, still=still,
    )  # fmt: skip


def _alike(one: Exposed, now: Exposed) -> bool:
    """Whether two come to the same for the fish: the same flies at about the same depth."""
    step = _step(one, now)
    return step.same or (step.same_flies and step.same_depth)


def _flies(one: Exposed) -> tuple[str, ...]:
    return tuple(fly.name for fly in one.one.flies)
