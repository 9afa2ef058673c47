"""Cautions for people and fish. They advise on fishing, and leave whether to go to those on the spot."""

from __future__ import annotations

from dataclasses import dataclass

from stillthread.phrase import Phrase
from stillthread.water.comfort import Species
from stillthread.weather.wind import Wind

COLD_SHOCK_C = 15.0
WARM_HANDLING_C = 18.0
STOP_RELEASE_C = 20.0
ICE_C = 1.0


@dataclass(frozen=True, slots=True)
class Caution:
    """`level` is "note", "care" or "stop"; `key` is stable; `words` says what to do."""

    key: str
    level: str
    words: Phrase


def cautions_for(
    surface_c: float, wind: Wind, species: Species, elevation_deg: float, *, ice: bool = False
) -> tuple[Caution, ...]:
    """Return what applies now, gravest first.

    Temperatures and wind forces are common practice, no published source; local codes and people on the spot come
    first.
    """
    found: list[Caution] = []
    temperature = {"surface_c": surface_c}
    if ice:
        text = "Ice: no plan is made for it. Stay off ice you do not know; ask people on the spot."
        found.append(Caution("ice", "stop", Phrase(text)))
    elif surface_c <= ICE_C:
        text = "Water at {surface_c}: there may be ice. Do not go onto thin ice."
        found.append(Caution("ice", "stop", Phrase(text, temperature)))
    if surface_c >= STOP_RELEASE_C or surface_c >= species.stress_c:
        text = "{surface_c} at the top: a released trout may not live. Stop catch and release, or fish elsewhere."
        found.append(Caution("fish-stop", "stop", Phrase(text, temperature)))
    elif surface_c >= WARM_HANDLING_C:
        text = "{surface_c} at the top: play fish short, keep them in the water, hold them upright until they swim off."
        found.append(Caution("fish-warm", "care", Phrase(text, temperature)))
    if wind.beaufort >= 6:
        found.append(Caution("wind", "stop", Phrase("{wind_ms}: no water for a small boat.", {"wind_ms": wind.speed_ms})))
    elif wind.beaufort >= 4:
        text = "{wind_ms} and waves: lifejacket on, anchor from the bow only, never alone on a rising wind."
        found.append(Caution("wind", "care", Phrase(text, {"wind_ms": wind.speed_ms})))
    if surface_c < COLD_SHOCK_C:
        text = "Cold water ({surface_c}): a fall takes your breath. Wear a lifejacket, afloat or wading."
        found.append(Caution("cold-water", "care", Phrase(text, temperature)))
    if elevation_deg < 0.0:
        found.append(Caution("dark", "note", Phrase("Dark or dusk: carry a light and know the way back.")))
    order = {"stop": 0, "care": 1, "note": 2}
    return tuple(sorted(found, key=lambda caution: order[caution.level]))
