"""Every number of the judgement that is ours or common practice, in one place, with its unit, bounds and reason.

What the formulas are, and what moved a number, is told in docs/judgement.md, whose tables are written from this file. Facts
that belong to one food, sign or fly stand in their own tables (`food/catalogue.py`, `food/signs.py`, `food/kin.py`).
"""

from __future__ import annotations

from dataclasses import dataclass, field, fields
from typing import Any

from stillthread.trade.usual import BELOW_M


def _number(value: float, unit: str, bounds: tuple[float, float], why: str, source: str = "ours") -> Any:
    return field(default=value, metadata={"unit": unit, "bounds": bounds, "why": why, "source": source})


@dataclass(frozen=True, slots=True)
class Judgement:
    """The numbers that turn what is read into where they feed, what a fly there is worth and which way to fish is best."""

    # Where they are.
    fit_power: float = _number(0.725, "1", (0.5, 1.2), "how much less a food is eaten where trout cannot be")
    roam_surface: float = _number(
        0.06, "1", (0.02, 0.3), "share away from the food's layer, once a sample or the surface tells"
    )
    roam_signs: float = _number(0.35, "1", (0.1, 0.6), "the same with other signs")
    roam_unseen: float = _number(0.50, "1", (0.2, 0.8), "the same with nothing seen")
    roam_shallow: float = _number(0.75, "1", (0.3, 0.9), "the same in shallow water: they cruise", "common-practice")
    shallow_m: float = _number(3.0, "m", (2.0, 4.0), "water in which they cruise the whole column", "common-practice")
    warm_from_c: float = _number(
        16.0, "C", (15.0, 18.0), "warmer water is left for cooler, where there is some", "common-practice"
    )
    warm_scale_c: float = _number(2.0, "C", (1.0, 4.0), "how fast it is left")
    sharp_from_cpm: float = _number(1.2, "C/m", (0.8, 1.8), "a thermocline gentler than this bars nothing", "common-practice")
    sharp_full_cpm: float = _number(2.7, "C/m", (2.0, 4.0), "under one this sharp, oxygen is not trusted", "common-practice")
    barred_below_m: float = _number(0.9, "m", (0.3, 2.0), "how far under a sharp thermocline they still go")
    nothing_top_m: float = _number(0.9, "m", (0.4, 2.0), "the water that `nothing shows` speaks of")
    nothing_tells: float = _number(0.8, "1", (0.4, 0.95), "how far it empties that water", "common-practice")
    dim_bottom_least: float = _number(0.5, "1", (0.2, 1.0), "what a bottom too dark for weed still holds of its food")

    # How far they move for a fly.
    chase_secchi: float = _number(
        0.35, "1 of the Secchi depth", (0.2, 0.6), "several feet in clear water, inches in coloured", "common-practice"
    )
    chase_least_m: float = _number(0.15, "m", (0.1, 0.3), "in the most coloured water: inches", "common-practice")
    chase_most_m: float = _number(1.2, "m", (0.8, 2.0), "in the clearest: several feet", "common-practice")
    below_m: float = _number(float(BELOW_M), "m", (0.05, 0.3), BELOW_M.why, BELOW_M.source)
    rise_power: float = _number(0.6, "1", (0.2, 1.2), "how unwillingly they come up into light or heat")

    # What a fly is worth on a food.
    attracts_warm: float = _number(0.07, "1", (0.03, 0.2), "an attractor on another food, May to September")
    attracts_cold: float = _number(
        0.115, "1", (0.08, 0.3), "the same in the cold months: a bright fly is tied on early", "common-practice"
    )
    attract_mps: float = _number(0.25, "m/s", (0.15, 0.4), "the pace at which an attractor draws them")
    searches: float = _number(0.14, "1", (0.04, 0.2), "a natural of no food in particular, on any food")
    out_of_film: float = _number(0.05, "1", (0.01, 0.1), "a dry fly on food that is under water")
    shared_power: float = _number(0.6, "1", (0.3, 1.0), "a fly of n foods is worth n to minus this on each")
    still_least: float = _number(0.12, "1", (0.05, 0.3), "a hanging fly of a food that swims")
    still_shy: float = _number(0.30, "1", (0.1, 0.5), "and so much more when they are shy", "common-practice")
    still_pressed: float = _number(0.15, "1", (0.0, 0.4), "and when moving flies have pressed them", "common-practice")
    pace_width: float = _number(0.9, "1", (0.5, 1.4), "a pace e^0.9 times too fast or slow is worth three fifths")
    skin_m: float = _number(0.15, "m", (0.05, 0.3), "the top, where a wet fly drags and shows its leader")
    skin_cost: float = _number(0.4, "1", (0.1, 0.7), "what that costs a wet fly")
    uneven_m: float = _number(
        0.35, "m", (0.1, 0.5), "bottoms are not level: a moved fly within a foot or so is lost in it", "common-practice"
    )
    uneven_cost: float = _number(0.6, "1", (0.3, 0.9), "share of the time lost right on the bottom")

    # A team.
    second_fly: float = _number(0.12, "1", (0.0, 0.35), "what the weaker fly adds where both can be seen: a fish takes one")
    hands_on: float = _number(
        0.12, "1", (0.0, 0.3), "followers of an attractor take the natural near and below it", "common-practice"
    )
    fly_cost: float = _number(0.07, "1", (0.0, 0.08), "each further fly: tangles, snags, turnover")
    fly_cost_shy: float = _number(0.2, "1", (0.05, 0.3), "and so much more before shy fish")
    fly_cost_windy: float = _number(0.04, "1", (0.0, 0.1), "and in a strong wind")
    lure_shy_cost: float = _number(0.6, "1", (0.3, 0.9), "each lure or attractor before shy fish", "common-practice")

    # How shy they are.
    shy_calm: float = _number(0.6, "1", (0.3, 0.9), "bright and flat calm", "common-practice")
    shy_pressed: float = _number(0.5, "1", (0.2, 0.8), "hard pressed", "common-practice")
    shy_clear: float = _number(0.6, "1", (0.2, 0.9), "bright and clear, without a ripple", "common-practice")

    # What spoils a way to fish.
    glare_cost: float = _number(
        0.7, "1", (0.3, 0.9), "a moved fly on a flat, bright surface, where still wins", "common-practice"
    )
    glare_m: float = _number(2.5, "m", (1.0, 5.0), "how deep a flat, bright surface matters")
    pressed_cost: float = _number(0.6, "1", (0.3, 0.7), "a moved fly before pressed fish", "common-practice")
    cold_cost: float = _number(0.25, "1", (0.1, 0.5), "a briskly moved fly in cold water", "common-practice")
    cold_from_c: float = _number(8.5, "C", (7.0, 10.0), "below which they do not chase", "common-practice")
    brisk_mps: float = _number(0.12, "m/s", (0.08, 0.2), "a fly moved so fast disturbs in full; slower less")
    float_wave_mps: float = _number(2.5, "m/s", (2.0, 6.0), "wind whose waves begin to bounce what hangs", "common-practice")
    float_wave_cost: float = _number(0.1, "1 per m/s", (0.05, 0.2), "what each further metre a second costs a float in waves")
    float_deep_m: float = _number(
        6.0, "m", (4.0, 8.0), "deeper than 20 ft hardly anyone casts, strikes and lands under a float", "common-practice"
    )
    float_deep_cost: float = _number(0.12, "1 per m", (0.05, 0.3), "what each further metre costs it")
    gale_from_mps: float = _number(
        9.0, "m/s", (8.0, 12.0), "wind in which casting and control suffer, whatever the method", "common-practice"
    )
    gale_cost: float = _number(0.12, "1 per m/s", (0.05, 0.2), "what each further metre a second costs")
    passes_more: float = _number(
        0.72, "1", (0.0, 0.8), "a moved fly passes more fish, while nothing pins them down", "common-practice"
    )
    patience_s: float = _number(
        30.0, "s", (20.0, 45.0), "a longer count is seldom held: boat and line drift", "common-practice"
    )
    patience_cost: float = _number(0.002, "1 per s", (0.0, 0.01), "what each further second of a count costs")
    snag_min: float = _number(0.5, "min", (0.2, 1.5), "lost for each quarter of a cast in weed or on the bottom")
    contact_cost: float = _number(0.7, "1", (0.4, 1.0), "share of a cast's worth lost when all of it lies on the bottom")

    # What a method has of its own.
    shown_to: float = _number(1.35, "1", (1.0, 1.8), "a fish that rises is cast to")
    not_shown: float = _number(0.5, "1", (0.3, 0.8), "a fly on top where nothing rises")
    fry_seen: float = _number(1.75, "1", (1.0, 2.0), "where fry are chased one waits for the chase")
    layer_hold_m: float = _number(
        0.6, "m", (0.4, 0.9), "a washing line holds its flies in one layer this thick", "common-practice"
    )
    drift_meets: float = _number(
        0.75, "1", (0.3, 1.0), "fresh fish before a drifting boat, in a good ripple", "common-practice"
    )
    sight_gain: float = _number(1.1, "1", (0.6, 1.6), "a fish that is seen, led and waited for")

    takes_ph: float = _number(10.0, "1/h", (6.0, 16.0), "takes an hour by the right fly always where every trout can take it")
    shortest_within: float = _number(0.03, "1", (0.02, 0.05), "of counts this alike the shortest is advised", "common-practice")
    as_good_within: float = _number(0.10, "1", (0.05, 0.15), "methods this alike are said to be as good")


JUDGEMENT = Judgement()


def numbers() -> list[tuple[str, float, dict[str, Any]]]:
    """Return every number as (name, value, its unit, bounds, why and source), in the order of the file."""
    return [(one.name, float(getattr(JUDGEMENT, one.name)), dict(one.metadata)) for one in fields(Judgement)]
