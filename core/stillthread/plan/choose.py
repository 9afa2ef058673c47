"""The plan: simulate what is feasible, score it by expected takes an hour, and show the best of each kind."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from stillthread.depth.belief import Belief
from stillthread.depth.picture import WaterPicture, check_open_water
from stillthread.errors import FloatArray, NoAnswer
from stillthread.phrase import Phrase
from stillthread.plan.cruisers import how_to_lead
from stillthread.plan.enumerate import Box, Pins, feasible_options
from stillthread.plan.match import Matcher, matcher_of, passes_for
from stillthread.plan.methods import METHODS, SCHOOLS
from stillthread.plan.options import Option, for_each_option, simulate_options
from stillthread.plan.rank import CONTACT_COST, best_pace_mps, pace_fit, water_for
from stillthread.rules.water_rules import AgainstTheRules, WaterRules
from stillthread.sinking.cast import LAYER_M, Cast, CastResult
from stillthread.sourced import Sourced
from stillthread.weather.wind import Wind

TAKES_AT_BEST = Sourced(12.0, "1/h", "ours", "takes an hour by the right fly that is always where every trout can take it")
SECOND_FLY = Sourced(0.35, "1", "ours", "what each further fly adds of its own worth: a fish takes one")
GLARE_COST = Sourced(0.45, "1", "ours", "share lost by moving a fly on a flat, bright surface, where static wins")
PRESSED_COST = Sourced(0.30, "1", "common-practice", "pressed fish turn from moving flies; the number is ours")
SNAG_MIN = Sourced(0.5, "min", "ours", "lost for each quarter of a cast in weed or on the bottom")
BOWED_COST = 0.5  # ours
FRESH_WATER = Sourced(1.2, "1", "ours", "every cast of a drifting boat meets fish that have not seen the last one")
SEEN_GAIN = Sourced(1.5, "1", "ours", "a fish that is seen is cast to")
MOOD = (0.45, 1.7)  # ours: between which the day's mood multiplies takes, eight days of ten
SCHOOL_LEANS = 1.25  # ours: how far a school tips the scales
SHIFT_M = 1.0


@dataclass(frozen=True, slots=True)
class Scenario:
    """A change of what is given, and the method that would then be best."""

    words: str
    best_key: str
    best_name: str


@dataclass(frozen=True, slots=True)
class Ranked:
    """The best option of one method.

    `takes_ph` expected takes an hour, `low_ph` to `high_ph` with the mood of the day; `if_deeper_ph`, `if_shallower_ph` and
    `if_calm_ph` the same with the fish a metre deeper or higher, and without wind. `minutes_in_band` of each hour.
    """

    option: Option
    result: CastResult
    takes_ph: float
    low_ph: float
    high_ph: float
    if_deeper_ph: float
    if_shallower_ph: float
    if_calm_ph: float
    minutes_in_band: float
    reasons: tuple[Phrase, ...]
    weak_point: Phrase


@dataclass(frozen=True, slots=True)
class Plan:
    """`ranked` best of each method, best first; `excluded` methods with why; `changes` what would change the choice."""

    ranked: tuple[Ranked, ...]
    excluded: dict[str, str]
    changes: tuple[Scenario, ...]
    tried: int
    matcher: Matcher


def choose(
    picture: WaterPicture,
    box: Box,
    rules: WaterRules,
    *,
    cast_m: float = 18.0,
    pins: Pins | None = None,
    school_key: str = "best",
    fluorocarbon: str = "when-bright",
    pressed: bool = False,
    thorough: bool = True,
) -> Plan:
    """Return the plan for this water, box and rules.

    Parameters
    ----------
    picture : WaterPicture
    box : Box
    rules : WaterRules
        Never broken: what they forbid is not tried.
    cast_m : float
        Rod tip to point fly [m], 3 to 60.
    pins : Pins, optional
        What the angler has decided.
    school_key : str
        Key of `SCHOOLS`: leans the order, and never brings in what can't be fished.
    fluorocarbon : str
        "always", "when-bright" or "never".
    pressed : bool
        Whether the fish have been hard pressed by lures.
    thorough : bool
        Whether to try everything; otherwise about one in fifteen, for a first answer.

    Raises
    ------
    OnIce
        Ice covers the water.
    AgainstTheRules
        The water is closed on that day.
    NoAnswer
        Nothing in the box can be fished here as pinned; the message gives the reasons.
    """
    check_open_water(picture)
    on = picture.conditions.at.date()
    if not rules.open_on(on):
        raise AgainstTheRules(f"This water is closed on {on.day} {on:%B}. {rules.sentences()[0]}", field="at_local")
    scorer = Scorer(picture, school_key, pressed)
    found = feasible_options(
        picture, box, rules, cast_m=cast_m, pins=pins, fluorocarbon=fluorocarbon, thorough=thorough, matcher=scorer.matcher
    )
    if not found.options:
        why = [f"{text} ({_listed([key for key, said in found.excluded.items() if said == text])})"
               for text in dict.fromkeys(found.excluded.values())]  # fmt: skip
        raise NoAnswer(f"Nothing in the box can be fished here so. {' '.join(why)}")
    water = water_for(picture, cast_m)
    scores = for_each_option(
        found.options, water, lambda option, result: scorer.takes_ph(option, result) * scorer.lean(option), quick=True
    )
    best: dict[str, int] = {}
    for i, option in enumerate(found.options):
        if option.method.key not in best or scores[i] > scores[best[option.method.key]]:
            best[option.method.key] = i
    winners = [found.options[i] for i in best.values()]
    fine = simulate_options(winners, water, quick=False)
    ranked = [rank_one(scorer, option, result) for option, result in zip(winners, fine, strict=True)]
    ranked.sort(key=lambda one: -one.takes_ph * scorer.lean(one.option))
    return Plan(tuple(ranked), found.excluded, _changes(ranked), len(found.options), scorer.matcher)


class Scorer:
    """Scores options under one picture; the worth of each depth is worked out once, and once shifted."""

    def __init__(self, picture: WaterPicture, school_key: str, pressed: bool) -> None:
        self.picture, self.school, self.pressed = picture, SCHOOLS[school_key], pressed
        self.matcher = matcher_of(picture)
        layers = LAYER_M * (np.arange(int(picture.conditions.deepest_m / LAYER_M) + 1, dtype=np.float64) + 0.5)
        belief = picture.belief
        self.worth = {shift: shifted(belief, shift).worth(layers) for shift in (-SHIFT_M, 0.0, SHIFT_M)}
        self.inside = np.zeros(len(layers), dtype=np.bool_)
        for top, bottom in belief.bands():
            self.inside |= (layers >= top) & (layers <= bottom + LAYER_M)
        self.best_pace = best_pace_mps(picture.profile.at(belief.mean_m))

    def takes_ph(self, option: Option, result: CastResult, shift_m: float = 0.0, wind: Wind | None = None) -> float:
        """Return expected takes an hour."""
        cycle = option.cycle_s(result)
        seen = result.layer_s @ self.worth[shift_m] / cycle
        each = sorted((float(share) * self.match(option, k) for k, share in enumerate(seen)), reverse=True)
        total = each[0] + float(SECOND_FLY) * sum(each[1:])
        snag = float(result.weed_s.max()) / max(result.duration_s, 1.0)
        lost_min = float(SNAG_MIN) * 4.0 * snag
        time_share = cycle / (cycle + 60.0 * lost_min)
        undisturbed = self.undisturbed(option, wind or self.picture.conditions.wind)
        taken = total * (1.0 - float(CONTACT_COST) * snag) * time_share * undisturbed
        if option.method.key == "sight":
            taken *= float(SEEN_GAIN)
        if option.method.key in {"drift-boat", "tow"}:
            taken *= float(FRESH_WATER)
        return float(TAKES_AT_BEST) * taken

    def match(self, option: Option, k: int) -> float:
        """Return how well one fly of an option answers food, pace, light and warmth."""
        fly = option.flies[k]
        moved = pace_fit(max(option.speed_mps, 0.01), self.best_pace) if not option.static else 0.9
        return self.matcher.worth(fly, option.speed_mps) * (0.5 + 0.5 * moved)

    def undisturbed(self, option: Option, wind: Wind) -> float:
        calm = max(0.0, 1.0 - wind.speed_ms / 2.5)
        cost = float(GLARE_COST) * calm * min(self.matcher.setting.brightness / 0.5, 1.0)
        cost *= 0.25 if option.static else 1.0
        if self.pressed and not option.static:
            cost = 1.0 - (1.0 - cost) * (1.0 - float(PRESSED_COST))
        # A floating line fished slowly is bowed by a strong wind, which drags the flies (common practice).
        slow_floater = option.rig.line.floats and option.speed_mps < 0.06
        bowed = BOWED_COST * min(max((wind.speed_ms - 3.0) / 5.0, 0.0), 1.0) if slow_floater else 0.0
        return (1.0 - cost) * (1.0 - float(bowed))

    def lean(self, option: Option) -> float:
        """Return how far the angler's school tips the scales for an option."""
        if self.school.key == "static":
            return SCHOOL_LEANS if option.static else 1.0
        if self.school.key == "moved":
            return 1.0 if option.static else SCHOOL_LEANS
        return 1.0


def _listed(keys: Sequence[str]) -> str:
    return "; ".join(METHODS[key].name for key in keys)


def shifted(belief: Belief, by_m: float) -> Belief:
    """Return the belief with every depth moved down by `by_m` [m], and what falls off either end gathered there."""
    if by_m == 0.0:
        return belief
    # Each depth's mass goes to the grid depth nearest to where it is moved, at most to the ends.
    goal = np.clip(belief.depth_m + by_m, belief.depth_m[0], belief.depth_m[-1])
    index = np.clip(np.searchsorted(belief.depth_m, goal - 1e-9), 0, len(goal) - 1)
    mass = np.bincount(index, weights=belief.mass(), minlength=len(goal))
    density = mass / np.gradient(belief.depth_m)
    return replace(belief, density_pm=density / float(np.trapezoid(density, belief.depth_m)))


def rank_one(scorer: Scorer, option: Option, result: CastResult) -> Ranked:
    """Return an option with what it is worth, why, and what costs it most; `result` is its run."""
    takes = scorer.takes_ph(option, result)
    in_band = float((result.layer_s @ scorer.inside).max()) / option.cycle_s(result)
    return Ranked(
        option,
        result,
        takes,
        MOOD[0] * takes,
        MOOD[1] * takes,
        scorer.takes_ph(option, result, SHIFT_M),
        scorer.takes_ph(option, result, -SHIFT_M),
        scorer.takes_ph(option, result, wind=Wind(0.0, scorer.picture.conditions.wind.from_deg)),
        60.0 * in_band,
        _reasons(scorer, option, result, in_band),
        _weak_point(scorer, option, result),
    )


def _reasons(scorer: Scorer, option: Option, result: CastResult, in_band: float) -> tuple[Phrase, ...]:
    low, high = result.middle_depth_m()
    top, bottom = scorer.picture.belief.main_band
    reasons = [
        Phrase(
            "In the band ({top_m} to {bottom_m}) for {band_min} of every hour; the point fly works {low_m} to {high_m}.",
            {"top_m": top, "bottom_m": bottom, "band_min": 60.0 * in_band, "low_m": low, "high_m": high},
        )
    ]
    best = max(range(len(option.flies)), key=lambda k: scorer.match(option, k))
    name, chance = passes_for(option.flies[best], scorer.picture.foods)
    if name and chance > 0.08:
        text = f"{option.flies[best].name} passes for {name.lower()} ({{chance_pct}} likely) at this pace."
        reasons.append(Phrase(text, {"chance_pct": 100.0 * chance}))
    if option.method.key == "sight":
        reasons.append(how_to_lead(result, scorer.picture.conditions.wind))
    reasons.append(Phrase(f"Suits {option.method.suits}; needs {option.method.needs}."))
    return tuple(reasons)


def _weak_point(scorer: Scorer, option: Option, result: CastResult) -> Phrase:
    """Return the one thing that costs this option most."""
    snag = float(result.weed_s.max())
    calm = scorer.undisturbed(option, scorer.picture.conditions.wind)
    moving = isinstance(option.action, Cast) and not option.static and pace_fit(option.speed_mps, scorer.best_pace) < 0.6
    if snag > 0.1 * result.duration_s:
        return Phrase("In weed or on the bottom for {snag_s} a time: snags.", {"snag_s": snag})
    if calm < 0.8:
        return Phrase("Flat and bright, or pressed: a moving fly frightens more than it finds.")
    if moving:
        return Phrase(
            "Not the pace for water of {water_c}.", {"water_c": scorer.picture.profile.at(scorer.picture.belief.mean_m)}
        )
    return Phrase(f"Spoiled by {option.method.spoils}.")


def _changes(ranked: Sequence[Ranked]) -> tuple[Scenario, ...]:
    """Return what would put another method first."""
    first = ranked[0].option.method.key
    found = []
    for words, of in (
        ("If the fish are a metre deeper", "if_deeper_ph"),
        ("If they are a metre higher", "if_shallower_ph"),
        ("If the wind drops", "if_calm_ph"),
    ):
        best = max(ranked, key=lambda one, of=of: float(getattr(one, of)))  # type: ignore[misc]
        if best.option.method.key != first:
            found.append(Scenario(words, best.option.method.key, best.option.method.name))
    return tuple(found)


def coverage(ranked: Ranked, belief: Belief) -> FloatArray:
    """Return, for each depth of the belief, the chance that fish there see a fly within an hour, shape (n_depth,)."""
    layers = LAYER_M * (np.arange(ranked.result.layer_s.shape[1]) + 0.5)
    share = ranked.result.layer_s.max(axis=0) / ranked.option.cycle_s(ranked.result)
    above = (belief.depth_m[:, None] - layers[None, :]) / belief.reach_up_m
    window = np.exp(-np.where(above > 0.0, above**2, (above * 8.0) ** 2))
    return np.asarray(1.0 - np.exp(-6.0 * (window @ share)))


def second_rod(plan: Plan, picture: WaterPicture, first: int = 0) -> tuple[Ranked, float, float] | None:
    """Return the option that, beside the first, covers most of the belief, with the share covered by one and by both.

    Common practice: two rods start at different depths, and the one that finds them tells the other.
    """
    if len(plan.ranked) < 2:
        return None
    mass = picture.belief.mass()
    lead = coverage(plan.ranked[first], picture.belief)
    others = [one for i, one in enumerate(plan.ranked) if i != first]

    def both(one: Ranked) -> float:
        return float((mass * (1.0 - (1.0 - lead) * (1.0 - coverage(one, picture.belief)))).sum())

    best = max(others, key=lambda one: both(one) * (0.3 + one.takes_ph / max(plan.ranked[0].takes_ph, 1e-9)))
    return best, float((mass * lead).sum()), both(best)
