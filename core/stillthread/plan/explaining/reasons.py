"""Why an option is advised and what costs it most, in words that belong together with their numbers."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from stillthread.phrase import Phrase
from stillthread.plan.exposure import Exposure
from stillthread.plan.option import Option
from stillthread.plan.scoring.match import passes_for
from stillthread.plan.scoring.scorer import Scorer
from stillthread.sinking.cast import CastResult
from stillthread.tackle.lines import label_note
from stillthread.trade.usual import STILL_MPS

NEAR_BAND_M = 0.3  # ours: a fly this near the band is seen from it
LEAST_SHARE = 0.02  # ours: less of an hour is not spoken of
PASSES_SAID = 0.08  # ours: a food this likely is said to be passed for
CALM_BRIGHT, COLD, COLD_FOR_CHASING, GLARE = 0.3, 0.3, 0.5, 0.2  # ours: from here each is given as a reason
SNAGGED = 0.1  # ours: of a time in weed from which that is the weak point


@dataclass(frozen=True, slots=True)
class InBand:
    """The `fly` that is longest in a likely run of depths, `band` [m], where it works, and for what `share` of the time."""

    fly: int
    band: tuple[float, float]
    share: float


def in_band(scorer: Scorer, option: Option, exposure: Exposure) -> InBand:
    """Return the fly that is longest in one of the likeliest runs of depths, and which; nothing where none works in any."""
    share = exposure.layer_s @ scorer.inside.T / option.action.cycle_s(exposure.duration_s)
    top, bottom = np.array(scorer.bands).T
    works = (exposure.middle_m[:, :1] <= bottom + NEAR_BAND_M) & (exposure.middle_m[:, 1:] >= top - NEAR_BAND_M)
    share = np.where(works, share, 0.0)
    fly, band = divmod(int(np.argmax(share)), len(scorer.bands))
    if share[fly, band] <= 0.0:
        band = scorer.bands.index(scorer.picture.belief.main_band)
    return InBand(fly, scorer.bands[band], float(share[fly, band]))


def reasons(
    scorer: Scorer, option: Option, exposure: Exposure, result: CastResult, counts: Sequence[tuple[float, float]]
) -> tuple[Phrase, ...]:
    """Return the reasons, weightiest first; each names the fly it speaks of."""
    there = in_band(scorer, option, exposure)
    low, high = exposure.middle_m[there.fly]
    top, bottom = there.band
    values = {"top_m": top, "bottom_m": bottom, "band_min": 60.0 * there.share, "low_m": float(low), "high_m": float(high)}
    name = "the fly" if len(option.flies) == 1 else option.flies[there.fly].name
    if there.share > LEAST_SHARE:
        which = "the band" if there.band == scorer.picture.belief.main_band else "the other likely water"
        text = (
            f"In {which} ({{top_m}} to {{bottom_m}}) for {{band_min}} of every hour: {name}, working {{low_m}} to {{high_m}}."
        )
    else:
        text = f"Outside the likeliest band ({{top_m}} to {{bottom_m}}): {name} works {{low_m}} to {{high_m}}."
    said = [Phrase(text, values)]
    pace = option.speed_mps
    best = scorer.matcher.likeliest(option.flies, pace)
    food, chance = passes_for(option.flies[best], scorer.picture.foods)
    if food and chance > PASSES_SAID:
        said.append(Phrase(f"{option.flies[best].name} passes for {food.lower()} ({{chance_pct}} likely) at this pace.",
                           {"chance_pct": 100.0 * chance}))  # fmt: skip
    said.append(still_or_moved(scorer, option))
    said.extend(option.method.says(scorer.picture, result))
    said.extend(option.action.says(option.rig.line, counts))
    if (note := label_note(option.rig.line)) is not None:
        said.append(note)
    said.append(Phrase(f"Suits {option.method.suits}; needs {option.method.needs}."))
    return tuple(said)


def still_or_moved(scorer: Scorer, option: Option) -> Phrase:
    """Return why the flies are left still, or moved."""
    setting = scorer.setting
    values = {"water_c": setting.water_c}
    if option.speed_mps < float(STILL_MPS):
        if setting.pressed:
            return Phrase("Still, because moving flies have pressed them.")
        if setting.calm * setting.bright > CALM_BRIGHT:
            return Phrase("Still, because it is flat and bright: a moving fly frightens more than it finds.")
        if setting.cold > COLD:
            return Phrase("Still, because in water of {water_c} they do not chase.", values)
        return Phrase("Still, because what they are on hardly moves.")
    if setting.cold > COLD:
        return Phrase("Moved slowly: in water of {water_c} they do not chase far.", values)
    if setting.unpinned > 0.5:
        return Phrase("Moved, because nothing says where they are: it passes more fish.")
    return Phrase("Moved, at the pace of what they are on.")


def weak_point(scorer: Scorer, option: Option, exposure: Exposure, result: CastResult) -> Phrase:
    """Return the one thing that costs this option most."""
    setting, j = scorer.setting, scorer.j
    moving = not option.static
    if exposure.weed_s > SNAGGED * exposure.duration_s:
        return Phrase("In weed or on the bottom for {snag_s} a time: snags.", {"snag_s": exposure.weed_s})
    if moving and setting.pressed:
        return Phrase("They are pressed: a moving fly frightens more than it finds.")
    if moving and j.glare_cost * setting.calm * setting.bright > GLARE:
        return Phrase("Flat and bright: a moving fly frightens more than it finds.")
    if result.dragged_s is not None:
        values = {"wind_mps": setting.wind_mps, "fishes_s": result.dragged_s}
        text = f"A wind of {{wind_mps}} bows the line: {option.action.dragged}"
        return Phrase(text, values)
    if moving and setting.cold > COLD_FOR_CHASING:
        return Phrase("Cold for chasing, {water_c}: slower is better.", {"water_c": setting.water_c})
    return Phrase(f"Spoiled by {option.method.spoils}.")
