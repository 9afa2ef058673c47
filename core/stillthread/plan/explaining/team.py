"""Why each fly of a team sits where it does, and what may go wrong with it."""

from __future__ import annotations

from dataclasses import dataclass

from stillthread.depth.picture import WaterPicture
from stillthread.phrase import Phrase
from stillthread.plan.choose import Ranked
from stillthread.plan.scoring.match import passes_for
from stillthread.rules.water_rules import LURE_STYLES

TANGLING_MPS = 7.0  # common practice: several flies tangle above it
LONG_LEADER_M = 4.8  # common practice: about one and a half times a rod
SPINNING_M = 0.00017  # common practice: bulky flies spin tippets finer than this


@dataclass(frozen=True, slots=True)
class Seat:
    """A fly's place: "point", "middle dropper" or "top dropper", with the depths it works [m] and why it sits there."""

    place: str
    fly_name: str
    low_m: float
    high_m: float
    why: Phrase


def seats(ranked: Ranked, picture: WaterPicture) -> tuple[Seat, ...]:
    """Return the team from the point up. The reasons are common practice."""
    flies = ranked.option.flies
    found = []
    for k, fly in enumerate(flies):
        place = "point" if k == 0 else "top dropper" if k == len(flies) - 1 else "middle dropper"
        low, high = ranked.result.middle_depth_m(k)
        food, chance = passes_for(fly, picture.foods)
        if fly.style in LURE_STYLES and k > 0:
            why = Phrase("Seen first and followed; many take the fly below it.")
        elif k == 0 and fly.buoyant and fly.style != "dry":
            why = Phrase("Buoyant on the point: it holds the others in one shallow layer, or itself off the bottom.")
        elif k == 0 and fly.weighted and len(flies) > 1:
            why = Phrase("Heaviest on the point: it turns the cast over and takes the others down.")
        elif food:
            why = Phrase(f"Passes for {food.lower()} ({{chance_pct}} likely).", {"chance_pct": 100.0 * chance})
        else:
            why = Phrase("A searching fly.")
        found.append(Seat(place, fly.name, low, high, why))
    return tuple(found)


def warnings(ranked: Ranked, wind_speed_mps: float) -> tuple[Phrase, ...]:
    """Return what may tangle or fail to turn over, the one thing to change first last."""
    flies, rig = ranked.option.flies, ranked.option.rig
    said = []
    if len(flies) > 1 and wind_speed_mps > TANGLING_MPS:
        said.append(Phrase("Several flies in this wind tangle: open the loop, or fish one."))
    if len(flies) > 1 and any(fly.weighted for fly in flies[1:]):
        said.append(Phrase("A heavy fly above the point see-saws and tangles: the heaviest belongs on the point."))
    if ranked.option.action.turns_over and rig.leader.length_m > LONG_LEADER_M and len(flies) > 1:
        said.append(Phrase("A leader of {leader_m}: wait for it to straighten behind; two long strips straighten a poor cast.",
                           {"leader_m": rig.leader.length_m}))  # fmt: skip
    if flies[0].fly.dressing == "bulky" and rig.leader.sections[-1].diameter_m < SPINNING_M:
        said.append(Phrase("A bulky fly on fine tippet spins it: go a size stouter."))
    said.append(Phrase("If they only knock, the depth is right: change one thing, the fly or the pace."))
    return tuple(said)
