"""Flies as an angler keeps them: what each imitates or attracts with, its colour, how many are left."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from stillthread.errors import BadInput
from stillthread.food.catalogue import FOODS
from stillthread.ranges import FLIES_LEFT
from stillthread.tackle.flies import Fly

Style = Literal["natural", "attractor", "dry", "lure"]
STYLES: tuple[Style, ...] = ("natural", "attractor", "dry", "lure")
CLASS_EDGES_MPS = (0.07, 0.115, 0.17)  # ours: flies that sink alike share a path
BIG_LIFT_N = 0.7e-3  # ours: more foam than this holds a slow line up, less is pulled under
_COOL_KGM3 = 999.7  # by definition: water of ten degrees
WEIGHTED_MPS = 0.12  # ours: a fly that falls faster leads the line down


@dataclass(frozen=True)
class BoxFly:
    """A fly with its use: `foods` keys of what it imitates, `style` how it works, `left` how many there are, 0 to 999."""

    fly: Fly
    foods: tuple[str, ...] = ()
    style: Style = "natural"
    colour: str = ""
    left: int = 1

    def __post_init__(self) -> None:
        for key in self.foods:
            if key not in FOODS:
                raise BadInput(f"food {key!r} is not known. Known: {', '.join(FOODS)}.", field="foods")
        if self.style not in STYLES:
            raise BadInput(f"style {self.style!r} is not known. Known: {', '.join(STYLES)}.", field="style")
        FLIES_LEFT.check("left", self.left)

    @property
    def name(self) -> str:
        return self.fly.name

    @cached_property
    def sink_mps(self) -> float:
        """How fast it falls on its own in water of 10 C [m/s]; negative if it rises."""
        return self.fly.sink_rate_mps()

    @cached_property
    def buoyant(self) -> bool:
        return self.sink_mps < 0.0

    @cached_property
    def body_class(self) -> str:
        """The class of flies that sink alike: their paths stand for one another while a plan compares."""
        if self.style == "dry":
            return "dry"
        if self.buoyant:
            return "buoyant" if self.fly.weight_n(_COOL_KGM3) > -BIG_LIFT_N else "very buoyant"
        return str(sum(self.sink_mps >= edge for edge in CLASS_EDGES_MPS))

    @property
    def stout(self) -> bool:
        """Whether it is taken hard, so that fine tippet breaks: lures, leeches and fry."""
        return self.style == "lure" or bool({"leech", "fry"} & set(self.foods))

    @property
    def weighted(self) -> bool:
        return self.sink_mps > WEIGHTED_MPS
