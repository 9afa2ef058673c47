"""A fish in the hand: what it weighs by its length, and how long it may be played, lifted and held."""

from __future__ import annotations

import math
from dataclasses import dataclass
from types import MappingProxyType

from stillthread.phrase import Phrase
from stillthread.ranges import FISH_LENGTH_M
from stillthread.rules.cautions import STOP_RELEASE_C, WARM_HANDLING_C
from stillthread.sourced import Sourced
from stillthread.water.comfort import Species


@dataclass(frozen=True, slots=True)
class StandardWeight:
    """log10 of the weight [g] is `a` + `b` log10 of the total length [mm], for fish in lakes, from `least_m` on."""

    a: float
    b: float
    least_m: float
    source: str

    def kg(self, length_m: float) -> float:
        return float(10.0 ** (self.a + self.b * math.log10(1000.0 * length_m))) / 1000.0


STANDARD_WEIGHTS: MappingProxyType[str, StandardWeight] = MappingProxyType(
    {
        "rainbow": StandardWeight(-4.898, 2.990, 0.12, "simpkins-hubert-1996"),
        "brown": StandardWeight(-5.422, 3.194, 0.14, "hyatt-hubert-2001"),
        "cutthroat": StandardWeight(-5.192, 3.086, 0.13, "kruse-hubert-1997"),
        "brook": StandardWeight(-5.186, 3.103, 0.12, "hyatt-hubert-2001"),
    }
)


def usual_weight_kg(species_key: str, length_m: float) -> float | None:
    """Return what a fish of this total length weighs when well fed [kg]; None for a kind or size without an equation.

    The equations give the weight of fish in good condition (the upper quartile of populations): most weigh less.

    Examples
    --------
    >>> round(usual_weight_kg("rainbow", 0.40), 3)
    0.762
    """
    FISH_LENGTH_M.check("length_m", length_m)
    known = STANDARD_WEIGHTS.get(species_key)
    return known.kg(length_m) if known and length_m >= known.least_m else None


def usual_weights(species_key: str, step_m: float = 0.02, longest_m: float = 1.0) -> list[tuple[float, float]]:
    """Return lengths [m] and usual weights [kg] from the shortest that has one: what a device draws on with no connection."""
    lengths = [round(step_m * i, 3) for i in range(1, round(longest_m / step_m) + 1)]
    found = [(length, usual_weight_kg(species_key, length)) for length in lengths]
    return [(length, kg) for length, kg in found if kg is not None]


def condition_pct(species_key: str, length_m: float, weight_kg: float) -> float | None:
    """Return the weight as a share of the usual one of its length [%]: about 100 is well fed, 80 is lean."""
    usual = usual_weight_kg(species_key, length_m)
    return 100.0 * weight_kg / usual if usual else None


@dataclass(frozen=True, slots=True)
class Handling:
    """How long a fish may be played [s], be in the air [s], and is to be held upright [s]; whether it should go back at all."""

    play_s: float
    air_s: float
    hold_s: float
    lives: bool
    words: Phrase


AIR_S = Sourced(10.0, "s", "cook-2015", "no longer in the air than this")
PLAY_S = {False: Sourced(240.0, "s", "common-practice", "a minute or so for each half kilogram, seldom more in all"),
          True: Sourced(120.0, "s", "common-practice", "tired fish die in warm water: strong tippet, play short")}  # fmt: skip
HOLD_S = {False: Sourced(30.0, "s", "common-practice", "until it swims off"),
          True: Sourced(120.0, "s", "common-practice", "longer in warm water, head into the waves")}  # fmt: skip


def handling(surface_c: float, species: Species) -> Handling:
    """Return how a fish from water of this temperature at the top [deg C] is to be treated. Local rules come first."""
    warm = surface_c >= WARM_HANDLING_C
    lives = surface_c < STOP_RELEASE_C and surface_c < species.stress_c
    values = {"surface_c": surface_c}
    if not lives:
        said = Phrase("{surface_c} at the top: it may not live. If it must go back, do not lift it, and stop fishing.", values)
    elif warm:
        said = Phrase("{surface_c} at the top: keep it in the water, and hold it until it pulls away by itself.", values)
    else:
        said = Phrase("Wet hands, fish in the water, held upright until it swims.")
    return Handling(float(PLAY_S[warm]), float(AIR_S), float(HOLD_S[warm]), lives, said)
