"""What trout eat in still water: each food with its layer, season, warmth, size and pace, as a table.

Every row is common practice, no published source, unless its `source` says otherwise. Seasons are given for the
north; the south has them half a year later.
"""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

Layer = Literal["bottom", "rising", "film", "weed", "margin", "light", "upper"]


@dataclass(frozen=True, slots=True)
class Stage:
    """What a food is in some months where that differs: its size [mm], hooks, pace [m/s] and reach [m]; `top_m` [m] is how
    thick a layer at the top holds it, `layer` where it then lives."""

    name: str
    months: tuple[int, int]
    size_mm: tuple[float, float]
    hooks: tuple[int, int]
    speed_mps: tuple[float, float]
    reach_m: float | None
    top_m: float | None = None
    layer: Layer | None = None


@dataclass(frozen=True, slots=True)
class Food:
    """One food at one stage.

    `layer` says where it is (see `layer_share`); `months` from and to (1 to 12, may wrap the year) when it matters most,
    `off_season` the share of that at other times; `from_c` to `full_c` [C] the warmth at which it begins and is fully
    about (None where warmth does not matter); `size_mm`, `hooks` and `speed_mps` ranges; `usual` how common it is.
    `reach_m` [m] is how far a trout moves for one: a hand's breadth to a foot for what drifts past it everywhere, `None` for
    what it chases as far as it sees. `stages` are what it is in some months where that differs.
    """

    key: str
    name: str
    layer: Layer
    usual: float
    months: tuple[int, int]
    off_season: float
    warmth_c: tuple[float, float] | None
    size_mm: tuple[float, float]
    hooks: tuple[int, int]
    speed_mps: tuple[float, float]
    colours: tuple[str, ...]
    retrieves: tuple[str, ...]
    reach_m: float | None = None
    stages: tuple[Stage, ...] = ()
    source: str = "common-practice"


PIN_FRY = Stage("pin fry", (6, 7), (12, 30), (10, 14), (0.0, 0.15), 0.5, 0.45)

LATE_FRY = Stage("coarse fry, gone deep", (10, 12), (40, 100), (4, 10), (0.10, 0.60), None, layer="upper")

_ROWS = (
    Food("midge-larva", "Midge larva", "bottom", 0.8, (1, 12), 1.0, None, (5, 20), (10, 16), (0.0, 0.01),
         ("red", "maroon", "green"), ("static", "twitch-drop"), 0.2),
    Food("midge-pupa", "Midge pupa, rising", "rising", 1.6, (4, 9), 0.4, (1.0, 9.0), (4, 16), (10, 18), (0.0, 0.04),
         ("black", "brown", "olive"), ("static", "slow-twist"), 0.25),
    Food("midge-film", "Midge pupa, in the film", "film", 1.0, (4, 10), 0.2, (7.0, 11.0), (4, 14), (12, 18), (0.0, 0.02),
         ("black", "grey", "brown"), ("static",), 0.4),
    Food("shrimp", "Freshwater shrimp", "bottom", 1.0, (3, 5), 0.6, None, (3, 19), (10, 16), (0.03, 0.15),
         ("olive", "olive with an orange spot"), ("slow-twist", "short-strips"), 0.4),
    Food("leech", "Leech", "bottom", 1.0, (10, 4), 0.35, None, (25, 75), (6, 12), (0.05, 0.20),
         ("black", "brown", "dark olive"), ("strip-pause", "long-pull")),
    Food("damsel-nymph", "Damselfly nymph", "weed", 1.0, (5, 8), 0.08, (12.0, 15.0), (19, 32), (8, 12), (0.10, 0.30),
         ("slim olive",), ("jerks", "strip-pause")),
    Food("dragon-nymph", "Dragonfly nymph", "bottom", 0.4, (5, 8), 0.3, (9.0, 13.0), (25, 50), (6, 10), (0.05, 0.30),
         ("brown", "dark olive"), ("long-pull", "strip-pause")),
    Food("mayfly-nymph", "Mayfly nymph", "rising", 0.7, (5, 9), 0.15, (9.0, 12.0), (6, 14), (12, 16), (0.03, 0.12),
         ("olive", "brown"), ("slow-twist", "lift-hang"), 0.5),
    Food("mayfly-dun", "Mayfly dun", "film", 0.5, (5, 9), 0.05, (10.0, 12.0), (6, 14), (12, 16), (0.0, 0.01),
         ("olive", "cream"), ("static",), 0.6),
    Food("caddis-pupa", "Caddis pupa", "rising", 0.6, (6, 9), 0.08, (11.0, 14.0), (8, 18), (8, 14), (0.05, 0.25),
         ("amber", "green"), ("slow-twist", "strip-pause"), 0.6),
    Food("caddis-adult", "Caddis adult", "film", 0.4, (6, 9), 0.03, (12.0, 15.0), (8, 20), (8, 14), (0.0, 0.25),
         ("brown", "grey"), ("static", "jerks"), 0.7),
    Food("boatman", "Water boatman", "margin", 0.6, (8, 10), 0.15, (7.0, 10.0), (6, 14), (10, 14), (0.10, 0.25),
         ("brown", "with a silver belly"), ("short-strips", "strip-pause"), 0.7),
    Food("daphnia", "Water fleas", "light", 0.8, (6, 9), 0.15, (11.0, 14.0), (1, 3), (8, 12), (0.10, 0.30),
         ("orange", "bright"), ("strip-pause", "two-handed")),
    Food("fry", "Fry", "margin", 0.8, (6, 11), 0.1, (6.0, 9.0), (20, 100), (6, 10), (0.10, 0.60),
         ("silver", "pale"), ("jerks", "two-handed"), stages=(PIN_FRY, LATE_FRY)),
    Food("terrestrial", "Blown land insects", "film", 0.5, (5, 9), 0.05, (10.0, 14.0), (4, 20), (8, 16), (0.0, 0.01),
         ("black", "brown"), ("static",), 0.9),
    Food("attractor", "Nothing in particular: an attractor", "upper", 0.6, (1, 12), 1.0, None, (10, 40), (8, 12), (0.15, 0.60),
         ("orange", "white", "black"), ("strip-pause", "two-handed")),
)  # fmt: skip

FOODS: MappingProxyType[str, Food] = MappingProxyType({food.key: food for food in _ROWS})
