"""Cautions for people and fish. They advise on fishing, and leave whether to go to those on the spot."""

from __future__ import annotations

from dataclasses import dataclass

from stillthread.phrase import Phrase
from stillthread.water.comfort import Species
from stillthread.weather.wind import Wind

COLD_SHOCK_C = 15.0  # common practice, no published source
WARM_HANDLING_C = 18.0  # common practice, no published source
STOP_RELEASE_C = 20.0  # common practice, no published source
ICE_C = 1.0
HOT_DAY_C = 19.0  # ours


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
        found.append(Caution("wind", "stop", Phrase("{wind_mps}: no water for a small boat.", {"wind_mps": wind.speed_mps})))
    elif wind.beaufort >= 4:
        text = "{wind_mps} and waves: lifejacket on, anchor from the bow only, never alone on a rising wind."
        found.append(Caution("wind", "care", Phrase(text, {"wind_mps": wind.speed_mps})))
    if surface_c < COLD_SHOCK_C:
        text = "Cold water ({surface_c}): a fall takes your breath. Wear a lifejacket, afloat or wading."
        found.append(Caution("cold-water", "care", Phrase(text, temperature)))
    if elevation_deg < 0.0:
        found.append(Caution("dark", "note", Phrase("Dark or dusk: carry a light and know the way back.")))
    order = {"stop": 0, "care": 1, "note": 2}
    return tuple(sorted(found, key=lambda caution: order[caution.level]))


def reminders_for(surface_c: float, wind: Wind, elevation_deg: float) -> tuple[Phrase, ...]:
    """Return what holds on any day out, in few words: it stands below the cautions of this hour and is never all said.

    Heat is told by the water's surface [deg C] with the sun up, since the air is not asked for. Common practice, no
    published source.
    """
    said = ["Local codes and people on the spot come first."]
    if surface_c >= HOT_DAY_C and elevation_deg > 0.0:
        said.append("Heat: hat, sunblock, 1.5 litres of water or more.")
    said.append("Thunder: rods down, off the water.")
    said.append(f"Glasses and a hat against hooks{'; wind carries a fly into you' if wind.beaufort >= 4 else ''}.")
    said.append("Wading: probe each step; silt holds a foot.")
    said.append("Boat: anchor from the bow only.")
    said.append("Fish: wet hands, soft net, kept in the water.")
    said.append("Clean, check and dry the gear.")
    return tuple(Phrase(text) for text in said)
