"""Leaders: sections to cut, from the line to the point fly, and the small hardware at their joints."""

from __future__ import annotations

import math
from dataclasses import dataclass
from types import MappingProxyType

from stillthread.errors import BadInput, check_range
from stillthread.ranges import ABOVE_POINT_M, LEADER_M, LEADER_SECTION_M, STRAND_M
from stillthread.sourced import Sourced
from stillthread.water.properties import GRAVITY_MS2

# Densities [kg/m3] (common practice: fluorocarbon sinks, nylon hardly).
MATERIALS = MappingProxyType({"fluorocarbon": 1780.0, "nylon": 1140.0})
MOST_SECTIONS = 12  # ours: a bound
MOST_HARDWARE = 8  # ours: a bound
GREASE_LIFT_NPM = Sourced(1e-3, "N/m", "ours", "what holds a greased leader in the film: about what a floating line's lift is")

# Mass [kg] and width [m] of what is tied in: ours, from memory of weighed pieces; makers differ.
HARDWARE = MappingProxyType(
    {
        "swivel": (0.10e-3, 0.0035),
        "tippet-ring": (0.02e-3, 0.0020),
        # Split shot by the common sizes: lead-free, so the mass is that of the label and the width follows.
        "shot-10": (0.04e-3, 0.0020),
        "shot-8": (0.06e-3, 0.0023),
        "shot-6": (0.10e-3, 0.0028),
        "shot-4": (0.20e-3, 0.0035),
        "shot-1": (0.30e-3, 0.0040),
        "shot-bb": (0.40e-3, 0.0044),
    }
)
_HARDWARE_KGM3 = 8000.0  # ours: steel and brass


@dataclass(frozen=True, slots=True)
class LeaderSection:
    """One length to cut: `length_m` 0.05 to 15, `diameter_m` 0.00005 to 0.001, `material` a key of `MATERIALS`.

    A `greased` section floats until it is pulled under.
    """

    length_m: float
    diameter_m: float
    material: str = "fluorocarbon"
    greased: bool = False

    def __post_init__(self) -> None:
        LEADER_SECTION_M.check("length_m", self.length_m)
        STRAND_M.check("diameter_m", self.diameter_m)
        if self.material not in MATERIALS:
            raise BadInput(f"material {self.material!r} is not known. Known: {', '.join(MATERIALS)}.", field="material")

    def weight_npm(self, water_density_kgm3: float) -> float:
        """Return the submerged weight per metre [N/m]."""
        area = 0.25 * math.pi * self.diameter_m**2
        weight = (MATERIALS[self.material] - water_density_kgm3) * GRAVITY_MS2 * area
        return weight - float(GREASE_LIFT_NPM) if self.greased else weight


@dataclass(frozen=True, slots=True)
class Hardware:
    """A swivel, ring or shot at `above_point_m` [m] up from the point fly; `kind` a key of `HARDWARE`."""

    kind: str
    above_point_m: float

    def __post_init__(self) -> None:
        if self.kind not in HARDWARE:
            raise BadInput(f"hardware {self.kind!r} is not known. Known: {', '.join(HARDWARE)}.", field="kind")
        ABOVE_POINT_M.check("above_point_m", self.above_point_m)

    @property
    def diameter_m(self) -> float:
        return HARDWARE[self.kind][1]

    def weight_n(self, density_kgm3: float) -> float:
        """Return the weight less buoyancy [N]."""
        return HARDWARE[self.kind][0] * GRAVITY_MS2 * (1.0 - density_kgm3 / _HARDWARE_KGM3)


@dataclass(frozen=True, slots=True)
class Leader:
    """Sections from the line (butt) to the point fly, together 0.3 to 15 m, with hardware along them."""

    name: str
    sections: tuple[LeaderSection, ...]
    hardware: tuple[Hardware, ...] = ()

    def __post_init__(self) -> None:
        if not 1 <= len(self.sections) <= MOST_SECTIONS:
            raise BadInput(f"A leader has 1 to {MOST_SECTIONS} sections.", field="sections")
        if len(self.hardware) > MOST_HARDWARE:
            raise BadInput(f"A leader carries at most {MOST_HARDWARE} swivels, rings and shot.", field="hardware")
        LEADER_M.check("leader length", self.length_m)
        if any(piece.above_point_m > self.length_m - 0.02 for piece in self.hardware):
            raise BadInput("Swivels, rings and shot sit on the leader, below the line.", field="hardware")

    @property
    def length_m(self) -> float:
        return sum(section.length_m for section in self.sections)


def tapered_leader(length_m: float, tippet_x: int) -> Leader:
    """Return the usual tapered leader: half butt, a fifth of steps down, the rest tippet (common practice).

    Examples
    --------
    >>> [round(1000 * s.diameter_m, 2) for s in tapered_leader(2.7, 4).sections]
    [0.53, 0.43, 0.33, 0.25, 0.18]
    """
    check_range("length_m", length_m, 1.2, 6.0, "m")
    tippet = tippet_diameter_m(tippet_x)
    steps = ((0.50, 0.00053), (0.07, 0.00043), (0.07, 0.00033), (0.06, 0.5 * (0.00033 + tippet)), (0.30, tippet))
    sections = tuple(LeaderSection(share * length_m, diameter, "nylon") for share, diameter in steps)
    return Leader(f"tapered, {tippet_x}X", sections)


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
