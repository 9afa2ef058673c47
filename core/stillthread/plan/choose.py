"""The plan: the best way to fish by each method, in the order of expected takes an hour."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from stillthread.depth.belief import Belief, window
from stillthread.depth.picture import WaterPicture, check_open_water, read_water
from stillthread.errors import FloatArray, NoAnswer
from stillthread.phrase import Phrase
from stillthread.plan.box import Box, Pins
from stillthread.plan.casting_water import water_for
from stillthread.plan.explaining.reasons import in_band, reasons, weak_point
from stillthread.plan.exposure import exposure_of, quick_exposure
from stillthread.plan.methods import METHODS
from stillthread.plan.methods.base import Given
from stillthread.plan.option import Option, simulate_options
from stillthread.plan.scoring.match import Matcher
from stillthread.plan.scoring.scorer import SHIFT_M, Scorer
from stillthread.plan.scoring.setting import setting_of
from stillthread.plan.seeking import Found, Weigher, seek
from stillthread.rules.water_rules import AgainstTheRules, WaterRules
from stillthread.sinking.cast import LAYER_M, CastResult
from stillthread.trade.schools import SCHOOLS
from stillthread.trade.usual import USUAL_CAST_M

RISE = "sips"
LOOKS_PH = 6.0  # ours: how often in an hour a fish that could see a fly looks
RATE_COUNTS = 0.3  # ours: of a second rod, how little its own takes count beside what both cover
MOOD = (0.45, 1.7)  # ours: between which the day's mood multiplies takes, eight days of ten


@dataclass(frozen=True, slots=True)
class WhatIf:
    """A change of what is given, and the method that would then be best."""

    words: str
    best_key: str
    best_name: str


@dataclass(kw_only=True, frozen=True, slots=True)
class Ranked:
    """The best option of one method.

    `takes_ph` expected takes an hour, `low_ph` to `high_ph` with the mood of the day; `if_deeper_ph`, `if_shallower_ph` and
    `if_calm_ph` the same with the fish a metre deeper or higher, and without wind. `minutes_in_band` of each hour, by the fly
    that is longest there. `counts` are other counts [s] or depths [m] with their takes an hour, by coarser runs; `as_good`
    where it is within a tenth of the first.
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
    counts: tuple[tuple[float, float], ...] = ()
    as_good: bool = False


@dataclass(frozen=True, slots=True)
class OfLine:
    """What a line would give, with the method that suits it best: `takes_ph` by coarse runs."""

    line_name: str
    method_key: str
    takes_ph: float


@dataclass(kw_only=True, frozen=True, slots=True)
class Plan:
    """`ranked` best of each method, best first; `excluded` methods with why; `changes` what would change the choice; `lines`
    what each line would give, the best first."""

    ranked: tuple[Ranked, ...]
    excluded: dict[str, str]
    changes: tuple[WhatIf, ...]
    tried: int
    scorer: Scorer
    lines: tuple[OfLine, ...] = ()

    @property
    def matcher(self) -> Matcher:
        return self.scorer.matcher


def given_for(
    picture: WaterPicture,
    box: Box,
    rules: WaterRules,
    *,
    cast_m: float = float(USUAL_CAST_M),
    pins: Pins | None = None,
    fluorocarbon: str = "when-bright",
    pressed: bool = False,
    fish_kg: float = 1.0,
    thorough: bool = True,
) -> Given:
    """Return what a plan is made for; parameters are those of `choose`."""
    setting = setting_of(picture, pressed=pressed)
    return Given(
        picture=picture,
        box=box,
        rules=rules,
        pins=pins or Pins(),
        setting=setting,
        cast_m=cast_m,
        fluorocarbon=fluorocarbon,
        fish_kg=fish_kg,
        thorough=thorough,
    )


def choose(
    picture: WaterPicture,
    box: Box,
    rules: WaterRules,
    *,
    cast_m: float = float(USUAL_CAST_M),
    pins: Pins | None = None,
    school_key: str = "best",
    fluorocarbon: str = "when-bright",
    pressed: bool = False,
    fish_kg: float = 1.0,
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
    fish_kg : float
        The usual fish of the water [kg], 0.05 to 15: it sets the tippet.
    thorough : bool
        Whether to try everything; otherwise about half of it, for a first answer.

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
    given = given_for(
        picture,
        box,
        rules,
        cast_m=cast_m,
        pins=pins,
        fluorocarbon=fluorocarbon,
        pressed=pressed,
        fish_kg=fish_kg,
        thorough=thorough,
    )
    weigher = Weigher(given, Scorer(given, SCHOOLS[school_key]))
    methods = [method for method in METHODS.values() if given.pins.method_key in {None, method.key}]
    answers = seek(weigher, methods)
    found = [answer for answer in answers if isinstance(answer, Found) and answer.takes_ph > 0.0]
    excluded = {
        m.key: a if isinstance(a, str) else f"It would hold nothing: {m.spoils}."
        for m, a in zip(methods, answers, strict=True)
        if a not in found
    }
    if not found:
        why = [f"{text} ({_listed([key for key, said in excluded.items() if said == text])})"
               for text in dict.fromkeys(excluded.values())]  # fmt: skip
        raise NoAnswer(f"Nothing in the box can be fished here so. {' '.join(why)}")
    runs = simulate_options([one.option for one in found], water_for(picture, cast_m))
    ranked = [rank_one(weigher.scorer, one.option, run, one.counts) for one, run in zip(found, runs, strict=True)]
    changes = (*_changes(ranked), *_if_one_rises(ranked, weigher.scorer))
    return Plan(
        ranked=in_order(ranked, weigher.scorer),
        excluded=excluded,
        changes=changes,
        tried=weigher.tried,
        scorer=weigher.scorer,
        lines=_lines(weigher),
    )


def _lines(weigher: Weigher) -> tuple[OfLine, ...]:
    """Return what each line would give at its best."""
    best: dict[str, OfLine] = {}
    for (line, method), takes in weigher.of_lines.items():
        if line not in best or takes > best[line].takes_ph:
            best[line] = OfLine(line, method, takes)
    return tuple(sorted(best.values(), key=lambda one: -one.takes_ph))


def in_order(ranked: Sequence[Ranked], scorer: Scorer) -> tuple[Ranked, ...]:
    """Return the best first, as the school leans, each told whether it is as good as the first."""

    def leaned(one: Ranked) -> float:
        return one.takes_ph * scorer.lean(one.option.action)

    order = sorted(ranked, key=lambda one: -leaned(one))
    enough = (1.0 - scorer.j.as_good_within) * leaned(order[0])
    return tuple(replace(one, as_good=i > 0 and leaned(one) > enough) for i, one in enumerate(order))


def _listed(keys: Sequence[str]) -> str:
    return "; ".join(METHODS[key].name for key in keys)


def rank_one(scorer: Scorer, option: Option, result: CastResult, counts: tuple[tuple[float, float], ...] = ()) -> Ranked:
    """Return an option with what it is worth, why, and what costs it most; `result` is its run."""
    exposure = exposure_of(result)
    takes = scorer.takes_ph(option, exposure)
    calm = option.action.becalmed()
    water = water_for(scorer.picture, scorer.given.cast_m)
    in_calm = exposure if calm == option.action else quick_exposure(option.rig, calm, water)
    return Ranked(
        option=option,
        result=result,
        takes_ph=takes,
        low_ph=MOOD[0] * takes,
        high_ph=MOOD[1] * takes,
        if_deeper_ph=scorer.takes_ph(option, exposure, SHIFT_M),
        if_shallower_ph=scorer.takes_ph(option, exposure, -SHIFT_M),
        if_calm_ph=scorer.takes_ph(option, in_calm, wind_mps=0.0),
        minutes_in_band=60.0 * in_band(scorer, option, exposure).share,
        reasons=reasons(scorer, option, exposure, result, counts),
        weak_point=weak_point(scorer, option, exposure, result),
        counts=counts,
    )


def _changes(ranked: Sequence[Ranked]) -> tuple[WhatIf, ...]:
    """Return what would put another method first."""
    first = max(ranked, key=lambda one: one.takes_ph).option.method.key
    found = []
    for words, of in (
        ("If the fish are a metre deeper", "if_deeper_ph"),
        ("If they are a metre higher", "if_shallower_ph"),
        ("If the wind drops", "if_calm_ph"),
    ):
        best = max(ranked, key=lambda one, of=of: float(getattr(one, of)))  # type: ignore[misc]
        if best.option.method.key != first:
            found.append(WhatIf(words, best.option.method.key, best.option.method.name))
    return tuple(found)


def _if_one_rises(ranked: Sequence[Ranked], scorer: Scorer) -> tuple[WhatIf, ...]:
    """Return what one quiet rise would put first, where none was seen."""
    given = scorer.given
    if scorer.setting.rises:
        return ()
    signs = (*(key for key in given.picture.conditions.signs if key != "nothing"), RISE)
    picture = read_water(replace(given.picture.conditions, signs=signs), scorer.j)
    seen = Scorer(replace(given, picture=picture, setting=setting_of(picture, pressed=given.setting.pressed)), scorer.school)
    takes = [seen.takes_ph(one.option, exposure_of(one.result)) for one in ranked]
    best = ranked[int(np.argmax(takes))].option.method
    first = max(ranked, key=lambda one: one.takes_ph).option.method.key
    return () if best.key == first else (WhatIf("If one fish rises quietly", best.key, best.name),)


def coverage(ranked: Ranked, belief: Belief, below_m: float) -> FloatArray:
    """Return, for each depth of the belief, the chance that fish there see a fly within an hour, shape (n_depth,)."""
    layers = LAYER_M * (np.arange(ranked.result.layer_s.shape[1]) + 0.5)
    share = ranked.result.layer_s.max(axis=0) / ranked.option.cycle_s(ranked.result)
    seen = window(belief.depth_m[:, None], np.asarray(layers)[None, :], belief.reach_up_m, below_m)
    return np.asarray(1.0 - np.exp(-LOOKS_PH * (seen @ share)))


def second_rod(plan: Plan, picture: WaterPicture, first: int = 0) -> tuple[Ranked, float, float] | None:
    """Return the option that, beside the first, covers most of the belief, with the share covered by one and by both.

    Common practice: two rods start at different depths, and the one that finds them tells the other.
    """
    if len(plan.ranked) < 2:
        return None
    below_m = plan.scorer.j.below_m
    mass = picture.belief.mass()
    lead = coverage(plan.ranked[first], picture.belief, below_m)
    others = [one for i, one in enumerate(plan.ranked) if i != first]

    def both(one: Ranked) -> float:
        return float((mass * (1.0 - (1.0 - lead) * (1.0 - coverage(one, picture.belief, below_m)))).sum())

    best = max(others, key=lambda one: both(one) * (RATE_COUNTS + one.takes_ph / max(plan.ranked[0].takes_ph, 1e-9)))
    return best, float((mass * lead).sum()), both(best)
