"""Flies as bodies in water: how much they weigh there and how hard they are to pull through it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from types import MappingProxyType

from stillthread.drag.laws import body_sink_rate_mps, sphere_cd
from stillthread.errors import BadInput
from stillthread.ranges import BEAD_MM, EXTRA_G, FLY_SINK_MPS, FOAM_MM3
from stillthread.sourced import Sourced
from stillthread.water.properties import GRAVITY_MS2, water_density_kgm3, water_viscosity_pas

STEEL_KGM3 = 7850.0  # by definition of the material
FOAM_KGM3 = 180.0  # common practice, no published source
LEAD_KGM3 = 11340.0  # by definition of the material
# Densities [kg/m3] of bead materials.
BEADS = MappingProxyType({"none": 0.0, "glass": 2500.0, "brass": 8500.0, "tungsten": 19300.0})  # by definition of the materials

# Mass [kg] and shank length [m] of a standard wet hook, by size: ours, from memory of weighed hooks; makers differ by 30 %.
_HOOKS = MappingProxyType(
    {
        2: (230e-6, 0.026),
        4: (170e-6, 0.022),
        6: (120e-6, 0.019),
        8: (82e-6, 0.016),
        10: (57e-6, 0.013),
        12: (40e-6, 0.011),
        14: (28e-6, 0.009),
        16: (20e-6, 0.0075),
        18: (14e-6, 0.006),
        20: (10e-6, 0.005),
        22: (7e-6, 0.0042),
        24: (5e-6, 0.0036),
    }
)
# Share of the standard mass that a hook of finer or stouter wire has: ours.
WIRES = MappingProxyType({"fine": 0.65, "standard": 1.0, "heavy": 1.35})
# Width of the sphere that drags like the dressed fly, in shank lengths: ours, so that an unweighted size 12 of middling
# dressing sinks at about 2 in/s; hackle and tail drag far more than the body.
DRESSINGS = MappingProxyType({"slim": 1.5, "medium": 2.2, "bulky": 3.0})
SLIMMEST = 1.1  # ours: body and hook alone
LAID_BACK_LOAD = Sourced(6.0, "1", "ours", "weight added, in hooks, that lays half of a dressing back; from tank tests told of")
# Air [mm3] that a dry dressing on a hook of size 10 carries until it is wetted: ours, by the cube of the hook elsewhere.
_DRY_AIR_MM3 = MappingProxyType({"slim": 3.0, "medium": 8.0, "bulky": 20.0})


@dataclass(kw_only=True, frozen=True, slots=True)
class Fly:
    """A fly with what sets its sinking.

    `hook_size` even, 2 to 24; `dressing` a key of `DRESSINGS`; `wire` a key of `WIRES`; `bead` a key of `BEADS`,
    `bead_mm` 1 to 6 across; `foam_mm3` 0 to 1000 of closed-cell foam; `extra_g` 0 to 10 of wire or a cone; `wetted`
    before the cast, or still dry. `measured_sink_mps` [m/s, negative if it rises, -1 to 2] is the angler's own tank test,
    and wins over the rest.
    """

    name: str
    hook_size: int
    dressing: str = "medium"
    wire: str = "standard"
    bead: str = "none"
    bead_mm: float = 0.0
    foam_mm3: float = 0.0
    extra_g: float = 0.0
    wetted: bool = True
    measured_sink_mps: float | None = None

    def __post_init__(self) -> None:
        if self.hook_size not in _HOOKS:
            raise BadInput(f"hook size {self.hook_size} is not known. Known: {', '.join(map(str, _HOOKS))}.", field="hook_size")
        if self.dressing not in DRESSINGS:
            raise BadInput(f"dressing {self.dressing!r} is not known. Known: {', '.join(DRESSINGS)}.", field="dressing")
        if self.wire not in WIRES:
            raise BadInput(f"wire {self.wire!r} is not known. Known: {', '.join(WIRES)}.", field="wire")
        if self.bead not in BEADS:
            raise BadInput(f"bead {self.bead!r} is not known. Known: {', '.join(BEADS)}.", field="bead")
        if self.bead != "none":
            BEAD_MM.check("bead_mm", self.bead_mm)
        FOAM_MM3.check("foam_mm3", self.foam_mm3)
        EXTRA_G.check("extra_g", self.extra_g)
        if self.measured_sink_mps is not None:
            FLY_SINK_MPS.check("measured_sink_mps", self.measured_sink_mps)

    @property
    def drag_diameter_m(self) -> float:
        """Width [m] of the sphere that has the drag of the dressed fly.

        The faster it sinks, the more of its dressing lies back: a heavy fly is slimmer in the water than in the vice.
        """
        shank = _HOOKS[self.hook_size][1]
        dressed = shank * (SLIMMEST + (DRESSINGS[self.dressing] - SLIMMEST) * self._stands)
        foam = 2.0 * math.cbrt(3.0 * self.foam_mm3 * 1e-9 / (4.0 * math.pi))
        bead = self.bead_mm * 1e-3 if self.bead != "none" else 0.0
        return max(dressed, foam, bead)

    @property
    def _stands(self) -> float:
        """Share of its dressing that stands, 1 for a fly that weighs no more than its hook."""
        if self.measured_sink_mps is not None:
            return 1.0
        hook_kg = _HOOKS[self.hook_size][0]
        bead_kg = math.pi / 6.0 * (self.bead_mm * 1e-3) ** 3 * BEADS[self.bead] if self.bead != "none" else 0.0
        load = (bead_kg + self.extra_g * 1e-3) / hook_kg
        return 1.0 / (1.0 + load / float(LAID_BACK_LOAD))

    def weight_n(self, density_kgm3: float) -> float:
        """Return the weight less buoyancy [N] in water of this density; negative if the fly floats."""
        if self.measured_sink_mps is not None:
            return _weight_of_rate_n(self.measured_sink_mps, self.drag_diameter_m)
        hook = _HOOKS[self.hook_size][0] * WIRES[self.wire] * (1.0 - density_kgm3 / STEEL_KGM3)
        bead = 0.0
        if self.bead != "none":
            bead = math.pi / 6.0 * (self.bead_mm * 1e-3) ** 3 * (BEADS[self.bead] - density_kgm3)
        foam = self.foam_mm3 * 1e-9 * (FOAM_KGM3 - density_kgm3)
        extra = self.extra_g * 1e-3 * (1.0 - density_kgm3 / LEAD_KGM3)
        air_mm3 = 0.0 if self.wetted else _DRY_AIR_MM3[self.dressing] * (_HOOKS[self.hook_size][1] / _HOOKS[10][1]) ** 3
        return GRAVITY_MS2 * (hook + bead + foam + extra - air_mm3 * 1e-9 * density_kgm3)

    def sink_rate_mps(self, water_c: float = 10.0) -> float:
        """Return how fast the untied fly falls in still water [m/s]; negative if it rises."""
        density = float(water_density_kgm3(water_c))
        return body_sink_rate_mps(self.weight_n(density), self.drag_diameter_m, density, float(water_viscosity_pas(water_c)))


def _weight_of_rate_n(sink_mps: float, diameter_m: float) -> float:
    """Return the submerged weight [N] of a body this wide that falls, or rises, at this rate in water of 10 C."""
    density, viscosity = float(water_density_kgm3(10.0)), float(water_viscosity_pas(10.0))
    speed = abs(sink_mps)
    cd = sphere_cd(density * speed * diameter_m / viscosity)
    return math.copysign(0.125 * math.pi * diameter_m**2 * density * cd * speed * speed, sink_mps)
