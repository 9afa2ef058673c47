"""What moves trout up or down: each factor a share per depth, with the sentence that explains it."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType

import numpy as np

from stillthread.depth.activity import activity_share
from stillthread.errors import FloatArray
from stillthread.food.inference import FoodPicture
from stillthread.judgement import JUDGEMENT, Judgement
from stillthread.phrase import Phrase
from stillthread.sourced import Sourced
from stillthread.water.comfort import Species, depth_bands, feeding_share
from stillthread.water.doubt import averaged
from stillthread.water.light import light_fraction
from stillthread.water.oxygen import LIVABLE_MGL, UNREAD_M, OxygenProfile, oxygen_share
from stillthread.water.profile import Profile
from stillthread.water.stratification import Layers

COMFORTABLE_SHARE = 0.95  # ours
BRIGHT_SHARE = Sourced(0.25, "1", "ours", "share of full daylight at which a trout is half as willing to stay")
RIPPLE_CALMS_MPS = Sourced(6.0, "m/s", "common-practice", "a good ripple: it breaks the light and hides the angler")
LEAST_SHARE = 0.02  # ours: no factor rules a depth out: fish surprise
LITTLE_ACTIVITY = 0.15  # ours: below this they are said to feed little; about 5 C
BARRED_SHARE = 0.95  # ours: a sharp thermocline lets this share of them no deeper
RIPPLE_TAKES = 0.35  # common practice: a good ripple takes about a third of the light; the number is ours
LIGHT_POWER = 1.5  # ours: how sharply willingness falls with light
UNWILLING = 0.7  # ours: below this share of willingness they are said to keep under the light
DARK = 0.02  # ours: hardly any light
WINTER_DAYS = (335.0, 60.0)  # common practice: December to February, as days of the northern year


@dataclass(frozen=True, slots=True)
class Draw:
    """A season's pull on trout in mixed water: about `middle_m` [m] down or `of_bottom` of the depth where that is less, within
    about `width_m` [m]; elsewhere `least` of them are left."""

    middle_m: float
    of_bottom: float
    width_m: float
    least: float
    text: str


SHALLOW_M = 2.0  # ours: over less water a season draws nobody anywhere, but in winter
# Common practice, no published source: early often 8 to 10 ft down near structure; late in autumn deep, 15 to 30 ft; from
# December to February 10 to 16 ft near drop-offs, or in the top two feet of a margin of 4 to 5 ft. The widths are ours.
SEASONS = MappingProxyType(
    {
        "winter, shallow": Draw(
            0.4, 1.0, 0.5, 0.4, "Winter: over so little water they are {low_m} to {high_m} down in the warm of the day."
        ),
        "winter": Draw(4.0, 0.75, 1.8, 0.4, "Winter: they lie {low_m} to {high_m} down, near drop-offs."),
        "early": Draw(2.7, 0.75, 1.6, 0.4, "Early in the year they are often {low_m} to {high_m} down, near banks."),
        "late": Draw(6.5, 0.8, 3.0, 0.16, "Late in the year they go deep, {low_m} to {high_m} where the water allows."),
    }
)


@dataclass(frozen=True, slots=True)
class Factor:
    """One reason: `share` (n_depth,), 0 to 1, is how far it lets fish feed at each depth; `why` says it in words."""

    key: str
    name: str
    share: FloatArray
    why: Phrase


def temperature_factor(profile: Profile, species: Species, judgement: Judgement = JUDGEMENT) -> Factor:
    """Return how the temperature at each depth suits the species, averaged over what is not known of it.

    Water that is warmer than they like is left for cooler, where the column has some.
    """
    left = averaged(profile.water_c, profile.spread_c, lambda c: _stays(c, judgement))
    share = feeding_share(species, profile.water_c, profile.spread_c) * left / float(left.max())
    surface_c = float(profile.water_c[0])
    bands = depth_bands(profile.depth_m, feeding_share(species, profile.water_c) >= COMFORTABLE_SHARE)
    best = float(profile.depth_m[int(np.argmax(share))])
    if not bands:
        if float(profile.water_c.max()) >= species.best_low_c:
            text = "Warm water: {surface_c} at the top. None of it is comfortable; the coolest lies at {best_m}."
        elif float(activity_share(species, profile.water_c).max()) < LITTLE_ACTIVITY:
            text = "Cold water: {surface_c} at the top. They feed little, in the warmest layer they find."
        else:
            text = "Cool water: {surface_c} at the top. No layer draws them for its warmth alone."
        return Factor("temperature", "Temperature", share, Phrase(text, {"surface_c": surface_c, "best_m": best}))
    top, bottom = max(bands, key=lambda band: band[1] - band[0])
    if top > 0.3 and surface_c > species.best_high_c:
        text = "Surface {surface_c} is warmer than they like; {low_c} to {high_c} lies at {top_m} to {bottom_m}."
    elif bottom < profile.depth_m[-1] - 0.3:
        text = "Comfortable from the top ({surface_c}) to {bottom_m}; colder below."
    else:
        text = "Comfortable at every depth: {surface_c} at the top."
    values = {
        "surface_c": surface_c,
        "low_c": species.best_low_c,
        "high_c": species.best_high_c,
        "top_m": top,
        "bottom_m": bottom,
    }
    return Factor("temperature", "Temperature", share, Phrase(text, values))


def _stays(water_c: FloatArray, judgement: Judgement) -> FloatArray:
    over = np.maximum(water_c - judgement.warm_from_c, 0.0) / judgement.warm_scale_c
    return np.asarray(np.exp(-(over**2)))


def below_sharp_thermocline(profile: Profile, layers: Layers, judgement: Judgement = JUDGEMENT) -> FloatArray:
    """Return how far each depth is open to trout under a thermocline so sharp, below warm water, that its oxygen is in doubt.

    Common practice: in summer at or just above a sharp thermocline; under a gentle slope they lie on the cool bottom.
    """
    if layers.thermocline_m is None or float(profile.water_c[0]) <= judgement.warm_from_c:
        return np.ones_like(profile.depth_m)
    steepest = float((-np.gradient(profile.water_c, profile.depth_m)).max())
    sharp = float(np.clip((steepest - judgement.sharp_from_cpm) / (judgement.sharp_full_cpm - judgement.sharp_from_cpm), 0, 1))
    under = profile.depth_m > layers.thermocline_m + judgement.barred_below_m
    return np.where(under, 1.0 - BARRED_SHARE * sharp, 1.0)


def oxygen_factor(profile: Profile, layers: Layers, oxygen: OxygenProfile, judgement: Judgement = JUDGEMENT) -> Factor:
    """Return how far the oxygen at each depth, measured or cautiously estimated, lets trout feed there."""
    share = oxygen_share(oxygen.oxygen_mgl, profile.water_c, oxygen.spread_mgl)
    unread_m = oxygen.unread_below_m
    if unread_m is not None:
        barred = below_sharp_thermocline(profile, layers, judgement)
        share = share * np.where(profile.depth_m > unread_m + float(UNREAD_M), barred, 1.0)
    if oxygen.measured_to_m is None:
        if oxygen.doubt is not None:
            return Factor("oxygen", "Oxygen", share, oxygen.doubt)
        return Factor("oxygen", "Oxygen", share, Phrase("No thermocline: the wind keeps oxygen at every depth. Not measured."))
    read = profile.depth_m <= oxygen.measured_to_m + 1e-9
    depth, mgl = profile.depth_m[read], oxygen.oxygen_mgl[read]
    short = mgl < float(LIVABLE_MGL)
    values = {"last_mgl": float(mgl[-1]), "to_m": oxygen.measured_to_m}
    values |= {"least_m": float(depth[int(np.argmin(mgl))]), "least_mgl": float(mgl.min())}
    if not short.any():
        where = "at every depth" if unread_m is None else "down to {to_m}"
        text = f"Oxygen as measured is enough {where}; least {{least_mgl}} at {{least_m}}."
    elif short[-1]:
        values["short_m"] = float(depth[int(np.argmax(short))])
        text = "Measured oxygen runs short below {short_m}: {last_mgl} at {to_m}."
    else:
        text = "Measured oxygen has a gap in mid-water, {least_mgl} at {least_m}, and is better again below."
    if unread_m is not None and not short[-1]:
        text += " Below {to_m} nothing was read."
        if oxygen.doubt is not None:
            return Factor("oxygen", "Oxygen", share, Phrase(f"{text} {oxygen.doubt.text}", {**oxygen.doubt.values, **values}))
    return Factor("oxygen", "Oxygen", share, Phrase(text, values))


def season_factor(depth_m: FloatArray, progress: float, northern_day: float) -> Factor | None:
    """Return where the time of year draws trout in water that is mixed, or None where it says nothing.

    In layered water temperature says more. The curves of `SEASONS` are ours, and lean only. `progress` is that of
    `season_progress`.
    """
    deepest = float(depth_m[-1])
    if northern_day >= WINTER_DAYS[0] or northern_day <= WINTER_DAYS[1]:
        draw = SEASONS["winter, shallow" if deepest < SHALLOW_M else "winter"]
    elif 0.0 <= progress <= 1.0 or deepest < SHALLOW_M:
        return None
    else:
        draw = SEASONS["early" if progress < 0.0 else "late"]
    middle_m, width_m, least = min(draw.middle_m, draw.of_bottom * deepest), draw.width_m, draw.least
    share = least + (1.0 - least) * np.exp(-(((depth_m - middle_m) / width_m) ** 2))
    values = {"low_m": max(middle_m - 0.5 * width_m, 0.0), "high_m": min(middle_m + 0.5 * width_m, deepest)}
    return Factor("season", "Season", share, Phrase(draw.text, values))


def light_factor(depth_m: FloatArray, brightness: float, secchi_m: float, wind_speed_mps: float) -> Factor:
    """Return how the light lets trout stay at each depth.

    `brightness` is the daylight on the water, 0 to 1 (`surface_brightness`). A ripple takes up to a third of it.
    Common practice: bright sun drives fish down, cloud and ripple bring them up; the curve is ours.
    """
    under = brightness * (1.0 - RIPPLE_TAKES * min(wind_speed_mps / float(RIPPLE_CALMS_MPS), 1.0))
    at_depth = under * light_fraction(depth_m, secchi_m)
    share = 1.0 / (1.0 + (at_depth / float(BRIGHT_SHARE)) ** LIGHT_POWER)
    half_m = float(np.interp(UNWILLING, share, depth_m)) if share[0] < UNWILLING else 0.0
    if brightness < DARK:
        text = "Hardly any light: they may feed right up to the surface."
    elif half_m > 0.2:
        text = "Bright above {half_m}: they will keep under that until the light goes."
    else:
        text = "Soft light: nothing keeps them from the upper water."
    return Factor("light", "Light", share, Phrase(text, {"half_m": half_m}))


# Where a food is, in words.
LAYER_WORDS = MappingProxyType(
    {
        "bottom": "on the bottom",
        "rising": "climbing from near the bottom",
        "film": "in the surface film",
        "weed": "over the weed and near the top",
        "margin": "in the top of the margins",
        "light": "in the dim layer, deep under sun, high at dusk",
        "upper": "in the upper water",
    }
)


def food_factor(foods: FoodPicture, density: FloatArray) -> Factor:
    """Return how the likely foods draw trout to each depth; `density` (n_depth,) is where they are, by their chances."""
    best = foods.chances[0]
    text = f"Most likely {best.food.name.lower()} ({{chance_pct}}), {LAYER_WORDS[best.food.layer]}."
    if best.probability < 0.3:
        text = f"No food stands out; first {best.food.name.lower()} ({{chance_pct}}), {LAYER_WORDS[best.food.layer]}."
    share = density / float(density.max())
    return Factor("food", "Food", share, Phrase(text, {"chance_pct": 100.0 * best.probability}))
