"""Leaders: sections of monofilament, from the line to the point fly."""

from __future__ import annotations

import math
from dataclasses import dataclass
from types import MappingProxyType

from stillthread.errors import BadInput, check_range
from stillthread.water.properties import GRAVITY_MS2

# Densities [kg/m3] (common practice: fluorocarbon sinks, nylon hardly).
MATERIALS = MappingProxyType({"fluorocarbon": 1780.0, "nylon": 1140.0})
LONGEST_LEADER_M = 12.0


@dataclass(frozen=True, slots=True)
class LeaderSection:
    """One length to cut: `length_m` 0.05 to 12, `diameter_m` 0.00005 to 0.001, `material` a key of `MATERIALS`."""

    length_m: float
    diameter_m: float
    material: str = "fluorocarbon"

    def __post_init__(self) -> None:
        check_range("length_m", self.length_m, 0.05, LONGEST_LEADER_M, "m")
        check_range("diameter_m", self.diameter_m, 0.00005, 0.001, "m")
        if self.material not in MATERIALS:
            raise BadInput(f"material {self.material!r} is not known. Known: {', '.join(MATERIALS)}.", field="material")

    def weight_npm(self, water_density_kgm3: float) -> float:
        """Return the submerged weight per metre [N/m]."""
        area = 0.25 * math.pi * self.diameter_m**2
        return (MATERIALS[self.material] - water_density_kgm3) * GRAVITY_MS2 * area


@dataclass(frozen=True, slots=True)
class Leader:
    """Sections from the line (butt) to the point fly; together 0.3 to 12 m."""

    name: str
    sections: tuple[LeaderSection, ...]

    def __post_init__(self) -> None:
        if not self.sections:
            raise BadInput("A leader needs at least one section.", field="sections")
        check_range("leader length", self.length_m, 0.3, LONGEST_LEADER_M, "m")

    @property
    def length_m(self) -> float:
        return sum(section.length_m for section in self.sections)


def tippet_diameter_m(x_number: int) -> float:
    """Return the diameter [m] of a tippet by its X number, 0 to 8.

    References
    ----------
    common practice: thousandths of an inch = 11 - X.

    Examples
    --------
    >>> round(1000 * tippet_diameter_m(3), 3)  # millimetres
    0.203
    """
    check_range("x_number", x_number, 0, 8, "X")
    return (11 - x_number) * 0.0254e-3
