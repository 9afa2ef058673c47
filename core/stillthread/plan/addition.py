"""What one tie or one purchase would add most to a plan."""

from __future__ import annotations

from dataclasses import dataclass, replace

from stillthread.depth.picture import WaterPicture
from stillthread.errors import NoAnswer
from stillthread.plan.choose import Plan, Scorer, choose
from stillthread.plan.enumerate import Box
from stillthread.rules.water_rules import WaterRules
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.starter import STARTER_FLIES, starter_lines

LEAST_GAIN = 0.08  # ours: less than this is within what the plan knows


@dataclass(frozen=True, slots=True)
class Addition:
    """A fly to tie or a line to buy: `kind` "fly" or "line", and `gain`, the share it would add to takes an hour."""

    kind: str
    name: str
    gain: float


def best_addition(plan: Plan, picture: WaterPicture, box: Box, rules: WaterRules, *, pressed: bool = False) -> Addition | None:
    """Return what of the starter box that is not owned would help the best choice most, or None when nothing helps much.

    A fly takes the seat of one that sinks alike, its path unchanged; a line is simulated in every method it serves.
    """
    best = plan.ranked[0]
    scorer = Scorer(picture, "best", pressed)
    owned = {fly.name for fly in box.flies if fly.left > 0}
    found: list[Addition] = []
    for fly in STARTER_FLIES:
        if fly.name in owned or (not rules.lures and fly.style == "lure"):
            continue
        if rules.largest_hook is not None and fly.fly.hook_size < rules.largest_hook:
            continue
        for seat, seated in enumerate(best.option.flies):
            if _alike(fly, seated):
                team = (*best.option.flies[:seat], fly, *best.option.flies[seat + 1 :])
                takes = scorer.takes_ph(replace(best.option, flies=team), best.result)
                found.append(Addition("fly", fly.name, takes / best.takes_ph - 1.0))
    classes = {line.class_key for line in box.lines}
    for line in starter_lines():
        if line.class_key in classes:
            continue
        try:
            other = choose(picture, replace(box, lines=(line,)), rules, pressed=pressed, thorough=False)
        except NoAnswer:
            continue
        found.append(Addition("line", line.name, other.ranked[0].takes_ph / best.takes_ph - 1.0))
    most = max(found, key=lambda one: one.gain, default=None)
    return most if most is not None and most.gain >= LEAST_GAIN else None


def _alike(a: BoxFly, b: BoxFly) -> bool:
    return a.buoyant == b.buoyant and a.weighted == b.weighted and (a.style == "dry") == (b.style == "dry")
