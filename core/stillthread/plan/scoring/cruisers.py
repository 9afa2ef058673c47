"""Casting to a fish that is seen swimming: how far ahead of it the fly must land to be at its depth when it comes."""

from __future__ import annotations

import numpy as np

from stillthread.phrase import Phrase
from stillthread.sinking.cast import CastResult
from stillthread.sourced import Sourced
from stillthread.weather.effects import compass_word
from stillthread.weather.wind import Wind

SEEN_TO_M = 1.5  # ours: how deep a trout can be made out from above
LEAST_LEAD_M = Sourced(2.0, "m", "common-practice", "nearer, the landing of the line frightens it")
CRUISE_MPS = Sourced(0.4, "m/s", "ours", "a trout looking for food in open water swims about a body length a second")
SHALLOW_FISH_M, DEEP_FISH_M = 0.3, 0.8  # ours: the two depths that are told
MOST_LEAD_M = Sourced(8.0, "m", "ours", "a fish farther off turns before it comes to the fly")


def lead_m(result: CastResult, depth_m: float) -> tuple[float, float] | None:
    """Return how far ahead to land the point fly [m] and how long it then sinks [s], or None where it is too slow for that.

    Parameters
    ----------
    result : CastResult
    depth_m : float
        The fish's depth [m], 0 to 5.
    """
    there = np.flatnonzero(result.fly_depth_m[0] >= depth_m)
    if there.size == 0:
        return None
    sinks_s = float(result.time_s[there[0]])
    lead = max(float(LEAST_LEAD_M), float(CRUISE_MPS) * sinks_s)
    return (lead, sinks_s) if lead <= float(MOST_LEAD_M) else None


def how_to_lead(result: CastResult, wind: Wind, sun_from_deg: float | None = None) -> Phrase:
    """Return where to stand and where to put the fly before a cruising fish. Common practice: trout face into the wind and
    travel upwind; the light comes from behind the angler."""
    ahead = "Land it ahead of the fish, never over it"
    if wind.speed_mps >= 0.5:
        ahead = f"They swim upwind, toward {compass_word(wind.from_deg)}. {ahead}"
    if sun_from_deg is not None:
        sun, looking = compass_word(sun_from_deg), compass_word(sun_from_deg + 180.0)
        ahead = f"Stand with the sun ({sun}) behind you, looking {looking}. {ahead}"
    says: dict[str, float] = {}
    leads = []
    for depth_m, name in ((SHALLOW_FISH_M, "shallow"), (DEEP_FISH_M, "deep")):
        found = lead_m(result, depth_m)
        if found is None:
            break
        says |= {f"{name}_m": depth_m, f"{name}_lead_m": found[0], f"{name}_s": found[1]}
        leads.append(f"{{{name}_lead_m}} for one at {{{name}_m}}")
    if not leads:
        return Phrase(f"{ahead}, by {{least_m}}; the fly stays at the top.", {"least_m": float(LEAST_LEAD_M)})
    sinks = f"; the fly sinks for {{{'deep' if len(leads) > 1 else 'shallow'}_s}}"
    return Phrase(f"{ahead}: {', '.join(leads)}{sinks}.", says)
