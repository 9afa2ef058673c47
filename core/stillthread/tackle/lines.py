"""Fly lines: classes by sink rate, mass by line number, and the sections a line is made of."""

from __future__ import annotations

import math
from dataclasses import dataclass
from types import MappingProxyType

from stillthread.errors import BadInput, check_range
from stillthread.sinking.drag import thread_weight_npm
from stillthread.water.properties import GRAVITY_MS2, water_density_kgm3, water_viscosity_pas

INCH_M = 0.0254
GRAIN_KG = 6.479891e-5
# Sink rates are quoted for cool lake water; the weight that gives them is worked out there.
LABEL_WATER_C = 10.0
FASTEST_SINK_MPS = 0.30

# Mass of the first 30 ft (9.144 m), in grains, by line number: the fly-line mass standard (from memory).
LINE_MASS_GRAINS = MappingProxyType({4: 120.0, 5: 140.0, 6: 160.0, 7: 185.0, 8: 210.0})


@dataclass(frozen=True, slots=True)
class LineClass:
    """A kind of full line: its name, usual label rate [m/s, 0 for a floater] and bulk density [kg/m3].

    Rates are common practice (type N sinks at about N inches a second); densities are ours, and set only how
    thick a line of a given mass is.
    """

    key: str
    name: str
    label_sink_rate_mps: float
    density_kgm3: float


LINE_CLASSES: MappingProxyType[str, LineClass] = MappingProxyType(
    {
        c.key: c
        for c in (
            LineClass("floating", "Floating", 0.0, 880.0),
            LineClass("hover", "Hover", 0.4 * INCH_M, 1020.0),
            LineClass("slow-intermediate", "Slow intermediate", 1.0 * INCH_M, 1070.0),
            LineClass("intermediate", "Intermediate", 1.5 * INCH_M, 1120.0),
            LineClass("fast-intermediate", "Fast intermediate", 2.0 * INCH_M, 1180.0),
            LineClass("type-3", "Type 3 sinker", 3.0 * INCH_M, 1350.0),
            LineClass("type-5", "Type 5 sinker", 5.0 * INCH_M, 1700.0),
            LineClass("type-6", "Type 6 sinker", 6.0 * INCH_M, 1900.0),
            LineClass("type-7", "Type 7 sinker", 7.0 * INCH_M, 2100.0),
        )
    }
)


@dataclass(frozen=True, slots=True)
class LineSection:
    """A stretch of line: `length_m`, `diameter_m` and submerged weight per metre `weight_npm` (negative floats)."""

    length_m: float
    diameter_m: float
    weight_npm: float


@dataclass(frozen=True, slots=True)
class Line:
    """A full line of one kind.

    `number` is its rating, 4 to 8. `sink_rate_mps` [m/s] is the label or, better, a calibrated rate,
    0 to 0.3; a floater has 0.
    """

    name: str
    class_key: str
    number: int
    sink_rate_mps: float

    def __post_init__(self) -> None:
        if self.class_key not in LINE_CLASSES:
            raise BadInput(f"line class {self.class_key!r} is not known. Known: {', '.join(LINE_CLASSES)}.", field="class_key")
        check_range("number", self.number, min(LINE_MASS_GRAINS), max(LINE_MASS_GRAINS), "")
        check_range("sink_rate_mps", self.sink_rate_mps, 0.0, FASTEST_SINK_MPS, "m/s")
        if self.floats and self.sink_rate_mps > 0.0:
            raise BadInput("A floating line has no sink rate: give 0.", field="sink_rate_mps")
        if not self.floats and self.sink_rate_mps < 0.002:
            raise BadInput("A sinking line needs a sink rate of at least 0.002 m/s.", field="sink_rate_mps")

    @property
    def floats(self) -> bool:
        return self.class_key == "floating"

    @property
    def diameter_m(self) -> float:
        """Thickness [m] of a level line with the standard's mean mass and the class's density."""
        mass_kgpm = LINE_MASS_GRAINS[self.number] * GRAIN_KG / (30.0 * 12.0 * INCH_M)
        return math.sqrt(4.0 * mass_kgpm / (math.pi * LINE_CLASSES[self.class_key].density_kgm3))

    def section(self, length_m: float) -> LineSection:
        """Return the stretch of this line that is out of the rod."""
        d = self.diameter_m
        density = float(water_density_kgm3(LABEL_WATER_C))
        if self.floats:
            line_density = LINE_CLASSES[self.class_key].density_kgm3
            return LineSection(length_m, d, (line_density - density) * GRAVITY_MS2 * 0.25 * math.pi * d**2)
        viscosity = float(water_viscosity_pas(LABEL_WATER_C))
        return LineSection(length_m, d, thread_weight_npm(self.sink_rate_mps, d, density, viscosity))


def line_of_class(class_key: str, number: int = 6) -> Line:
    """Return a line of this class with its label's rate.

    Examples
    --------
    >>> round(line_of_class("intermediate").sink_rate_mps, 4)
    0.0381
    """
    if class_key not in LINE_CLASSES:
        raise BadInput(f"line class {class_key!r} is not known. Known: {', '.join(LINE_CLASSES)}.", field="class_key")
    kind = LINE_CLASSES[class_key]
    return Line(kind.name, class_key, number, kind.label_sink_rate_mps)


def plain_sum_m(line: Line, count_s: float) -> float:
    """Return sink rate times count [m]: the sum anglers do in their heads.

    Examples
    --------
    >>> round(plain_sum_m(line_of_class("intermediate"), 24.0) / 0.3048, 2)  # feet
    3.0
    """
    return line.sink_rate_mps * count_s
