"""What can be seen that tells of food, and how likely each food is to show it.

The likelihoods are ours, set from common practice ("head-and-tail rises: pupae in the film"); a food that a row does
not name shows the sign at `BY_CHANCE`. No published source.
"""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType

BY_CHANCE = 0.05


@dataclass(frozen=True, slots=True)
class SeenAt:
    """Where a sign says that they feed: about `middle_m` [m] down, or at `middle_share` of the depth, within `width_m` [m],
    0.05 to 3; `weight`, 0 to 1, is how far it outweighs what was expected. Common practice, the numbers ours."""

    middle_m: float
    width_m: float
    weight: float
    middle_share: float = 0.0


@dataclass(frozen=True, slots=True)
class Sign:
    """`shows` maps a food's key to the chance that the sign is seen when trout feed on it; `asks` tells what to look for.

    `tells` is what the sign says of depth itself, whatever they eat, `None` where it says nothing. `rise` is a fish that was
    seen to take at the top.
    """

    key: str
    name: str
    asks: str
    shows: MappingProxyType[str, float]
    by_chance: float = BY_CHANCE
    tells: SeenAt | None = None
    rise: bool = False


def _sign(
    key: str, name: str, asks: str, by_chance: float = BY_CHANCE, tells: SeenAt | None = None, *, rise: bool = False,
    **shows: float,
) -> Sign:  # fmt: skip
    told = MappingProxyType({food.replace("_", "-"): p for food, p in shows.items()})
    return Sign(key, name, asks, told, by_chance, tells, rise)


SIGNS: MappingProxyType[str, Sign] = MappingProxyType(
    {
        s.key: s
        for s in (
            _sign("head-and-tail", "Head-and-tail rises", "watch how they rise: does the back roll over?",
                  tells=SeenAt(0.0, 0.30, 0.65), rise=True,
                  midge_film=0.60, midge_pupa=0.25, mayfly_nymph=0.15),
            _sign("sips", "Quiet sips", "look for rings without a splash",
                  tells=SeenAt(0.0, 0.22, 0.70), rise=True,
                  midge_film=0.40, mayfly_dun=0.40, terrestrial=0.35, midge_pupa=0.15),
            _sign("splashes", "Splashy rises", "watch for rises that throw water",
                  tells=SeenAt(0.0, 0.30, 0.65), rise=True,
                  caddis_adult=0.60, mayfly_dun=0.35, caddis_pupa=0.30, terrestrial=0.15),
            _sign("bulges", "Bulges, pushed water", "look for humps that do not break",
                  tells=SeenAt(0.25, 0.25, 0.70),
                  fry=0.60, damsel_nymph=0.20, boatman=0.15, midge_pupa=0.10),
            _sign("swirls", "Swirls down deep", "look down beside the weed for turning fish",
                  tells=SeenAt(0.0, 0.6, 0.50, 0.7),
                  damsel_nymph=0.35, mayfly_nymph=0.30, shrimp=0.15, caddis_pupa=0.25, dragon_nymph=0.15),
            _sign("swallows", "Swallows low over the water", "watch the birds over the water",
                  midge_film=0.45, midge_pupa=0.35, mayfly_dun=0.35, caddis_adult=0.30, mayfly_nymph=0.20),
            _sign("shucks", "Empty shucks drifting", "look for shucks on the downwind side",
                  midge_film=0.65, midge_pupa=0.55, mayfly_dun=0.15),
            _sign("diving-birds", "Terns or grebes diving", "watch for birds that dive",
                  tells=SeenAt(0.4, 0.5, 0.35),
                  fry=0.55),
            _sign("small-flies", "Small flies in the air", "look along the lee bank for midges",
                  midge_film=0.55, midge_pupa=0.45, midge_larva=0.15, by_chance=0.12),
            _sign("upwings", "Upwinged flies on the water", "look for sails on the ripple",
                  tells=SeenAt(0.0, 0.35, 0.30),
                  mayfly_dun=0.75, mayfly_nymph=0.50),
            _sign("caddis-about", "Caddis skating or in the bushes", "shake a bush",
                  tells=SeenAt(0.0, 0.4, 0.25),
                  caddis_adult=0.70, caddis_pupa=0.45),
            _sign("damsels-about", "Damselflies at the reeds", "look for nymphs climbing the reeds",
                  damsel_nymph=0.75, dragon_nymph=0.30),
            _sign("blown-insects", "Land insects on the water", "look where the wind blows off the land",
                  tells=SeenAt(0.0, 0.4, 0.45),
                  terrestrial=0.75),
            _sign("fry-seen", "Fry in the margins", "look into the shallows",
                  tells=SeenAt(0.3, 0.4, 0.25),
                  fry=0.70, by_chance=0.10),
            _sign("flea-clouds", "Clouds of water fleas", "dip a jar",
                  daphnia=0.75, by_chance=0.035),
            _sign("nothing", "Nothing shows", "look for five minutes before you say so",
                  midge_larva=0.70, shrimp=0.65, leech=0.70, dragon_nymph=0.55, midge_pupa=0.35, daphnia=0.45, attractor=0.60,
                  boatman=0.35, mayfly_nymph=0.25, damsel_nymph=0.25),
        )
    }
)  # fmt: skip
