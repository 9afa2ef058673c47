"""What one tie or one purchase would add most to a plan."""

from __future__ import annotations

from dataclasses import dataclass, replace

from stillthread.plan.choose import Plan
from stillthread.plan.exposure import exposure_of
from stillthread.plan.methods import METHODS
from stillthread.plan.methods.base import Given
from stillthread.plan.scoring.scorer import Scorer
from stillthread.plan.seeking import Found, Weigher, seek
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.lines import Line
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from stillthread.trade.schools import SCHOOLS

LOOKED_AT = 4  # ours: ways in which another fly is looked at
LEAST_GAIN = 0.08  # ours: less than this is within what the plan knows


@dataclass(frozen=True, slots=True)
class Addition:
    """A fly to tie or a line to buy: `kind` "fly" or "line", and `gain`, the share it would add to takes an hour."""

    kind: str
    name: str
    gain: float


def best_addition(plan: Plan) -> Addition | None:
    """Return what of the starter box that is not owned would help the best choice most, or None when nothing helps much.

    A fly takes the seat of one that sinks alike, its path unchanged, in each of the best few ways; a line is tried in every
    method that it serves.
    """
    best, given = plan.ranked[0], plan.scorer.given
    tried = [(one.option, exposure_of(one.result)) for one in plan.ranked[:LOOKED_AT]]
    owned = {fly.name for fly in given.box.flies if fly.left > 0}
    found: list[Addition] = []
    for fly in STARTER_FLIES:
        if fly.name in owned or not given.rules.allows_fly(fly.fly.hook_size, fly.style):
            continue
        for option, exposure in tried:
            for seat, seated in enumerate(option.flies):
                if _alike(fly, seated):
                    team = (*option.flies[:seat], fly, *option.flies[seat + 1 :])
                    takes = plan.scorer.takes_ph(replace(option, flies=team), exposure)
                    found.append(Addition("fly", fly.name, takes / best.takes_ph - 1.0))
    classes = {line.class_key for line in given.box.lines}
    found += [
        Addition("line", line.name, _with_line(given, line) / best.takes_ph - 1.0)
        for line in starter_lines()
        if line.class_key not in classes
    ]
    most = max(found, key=lambda one: one.gain, default=None)
    return most if most is not None and most.gain >= LEAST_GAIN else None


def _with_line(given: Given, line: Line) -> float:
    """Return what the best method that a line serves would give, looked at coarsely."""
    with_it = replace(given, box=replace(given.box, lines=(line,)), thorough=False)
    weigher = Weigher(with_it, Scorer(with_it, SCHOOLS["best"]))
    found = seek(weigher, [method for method in METHODS.values() if method.takes(line)])
    return max((one.takes_ph for one in found if isinstance(one, Found)), default=0.0)


def _alike(a: BoxFly, b: BoxFly) -> bool:
    return a.buoyant == b.buoyant and a.weighted == b.weighted and (a.style == "dry") == (b.style == "dry")
