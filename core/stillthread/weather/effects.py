"""What a wind does on a lake: where to cast, how a boat drifts, where food gathers, how the layers tilt."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from stillthread.errors import check_range
from stillthread.phrase import Phrase
from stillthread.sourced import Sourced
from stillthread.water.hypsography import Hypsography
from stillthread.water.profile import Profile
from stillthread.water.properties import GRAVITY_MS2, water_density_kgm3
from stillthread.water.stratification import Layers
from stillthread.weather.waves import Waves, waves
from stillthread.weather.wind import Wind

AIR_KGM3 = 1.2  # by definition of the standard atmosphere
BOAT_WINDAGE_M2 = Sourced(1.5, "m2", "ours", "drag area in the wind of a small boat and two people, broadside")
HULL_M2 = Sourced(0.6, "m2", "ours", "drag area of its hull in the water, broadside")
DROGUE_M2 = Sourced(1.3, "m2", "ours", "drag area of a drogue about 1.2 m across")
WIND_DRAG = Sourced(1.3e-3, "1", "imberger-hamblin-1982", "drag coefficient of wind on a lake, moderate winds")

WEAK_LAYERS_JM2 = 30.0  # ours: about what a near gale does to a lake in a day

_COMPASS = ("N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW")


def compass_word(bearing_deg: float) -> str:
    """Return the nearest of sixteen compass points.

    Examples
    --------
    >>> compass_word(225.0), compass_word(359.0)
    ('SW', 'N')
    """
    return _COMPASS[round(bearing_deg / 22.5) % 16]


def boat_drift_mps(wind: Wind, *, drogue: bool) -> float:
    """Return how fast a boat drifts before the wind [m/s].

    The balance of wind on the boat and water on hull and drogue, on top of the drift of the surface. It is blind to
    how the boat lies and to gusts.
    """
    area = float(HULL_M2) + (float(DROGUE_M2) if drogue else 0.0)
    through = wind.speed_mps * math.sqrt(AIR_KGM3 * float(BOAT_WINDAGE_M2) / (1000.0 * area))
    return 0.5 * wind.surface_drift_mps + through


@dataclass(frozen=True, slots=True)
class Tilt:
    """How wind tilts the thermocline: `wedderburn` number, and how much deeper [m] it comes to lie at the downwind end.

    `quarter_s` [s] is a quarter of the basin's internal swing: about how long the tilt takes.
    """

    wedderburn: float
    downwind_m: float
    quarter_s: float


def thermocline_tilt(profile: Profile, layers: Layers, wind: Wind, fetch_m: float, hypsography: Hypsography) -> Tilt | None:
    """Return the tilt of a two-layered lake under a steady wind, or None where there are no layers or no wind.

    Parameters
    ----------
    profile : Profile
    layers : Layers
        Of that profile.
    wind : Wind
    fetch_m : float
        Length of the lake along the wind [m], 50 to 100 000.
    hypsography : Hypsography
        Of the lake: the two layers are as thick as theirs are on the whole.

    References
    ----------
    imberger-hamblin-1982, the Wedderburn number g' h^2 / (u*^2 L); the tilt is the steady balance of wind and buoyancy.
    """
    check_range("fetch_m", fetch_m, 50.0, 100_000.0, "m")
    if layers.thermocline_m is None or wind.speed_mps < 0.5:
        return None
    depth = profile.depth_m
    above = profile.water_c[depth <= layers.thermocline_m]
    below = profile.water_c[depth > layers.thermocline_m]
    if above.size == 0 or below.size == 0:
        return None
    upper, lower = float(water_density_kgm3(above).mean()), float(water_density_kgm3(below).mean())
    buoyancy = GRAVITY_MS2 * max(lower - upper, 1e-4) / lower
    surface, at_step = hypsography.area_at(np.array([0.0, layers.thermocline_m]))
    if at_step <= 0.0:
        return None
    h1 = hypsography.volume_m3(0.0, layers.thermocline_m) / float(surface)
    h2 = max(hypsography.volume_m3(layers.thermocline_m, hypsography.deepest_m) / float(at_step), 0.3)
    friction2 = float(WIND_DRAG) * AIR_KGM3 / upper * wind.speed_mps**2
    wedderburn = buoyancy * h1**2 / (friction2 * fetch_m)
    celerity = math.sqrt(buoyancy * h1 * h2 / (h1 + h2))
    downwind = min(0.5 * fetch_m * friction2 / (buoyancy * h1), h1)
    return Tilt(wedderburn, downwind, 0.5 * fetch_m / celerity)


@dataclass(kw_only=True, frozen=True, slots=True)
class WindEffects:
    """What the wind does now; bearings clockwise from true north [deg]."""

    cast_deg: tuple[float, float]
    gathers_deg: float
    waves: Waves
    boat_mps: float
    boat_with_drogue_mps: float
    tilt: Tilt | None
    notes: tuple[Phrase, ...]


def wind_effects(
    wind: Wind, fetch_m: float, profile: Profile, layers: Layers, hypsography: Hypsography | None = None
) -> WindEffects:
    """Return where to cast, how high the waves, how fast the drift, and which shore gathers food.

    Common practice: trout face into the wind and travel upwind; cast across it, and lead a cruising fish by two metres.
    How the layers tilt and how well they hold depends on the shape of the lake: without a chart nothing is said of it.
    """
    downwind = (wind.from_deg + 180.0) % 360.0
    sides = ((wind.from_deg + 90.0) % 360.0, (wind.from_deg + 270.0) % 360.0)
    raised = waves(wind.speed_mps, fetch_m)
    plain, held = boat_drift_mps(wind, drogue=False), boat_drift_mps(wind, drogue=True)
    tilt = None if hypsography is None else thermocline_tilt(profile, layers, wind, fetch_m, hypsography)
    notes: list[Phrase] = []
    if wind.speed_mps < 1.0:
        notes.append(Phrase("Hardly any wind: fish cruise where they like; look for the first ripple."))
    else:
        notes.append(
            Phrase(
                f"Fish move upwind: cast across, toward {compass_word(sides[0])} or {compass_word(sides[1])}. "
                f"Food gathers toward the {compass_word(downwind)} shore."
            )
        )
        notes.append(
            Phrase(
                "Out in the open, waves of {low_cm} to {high_cm}; the surface and a float drift {top_mps}, a boat {boat_mps}, "
                "{held_mps} on a drogue.",
                {
                    "low_cm": 100.0 * raised.low_m,
                    "high_cm": 100.0 * raised.high_m,
                    "top_mps": wind.surface_drift_mps,
                    "boat_mps": plain,
                    "held_mps": held,
                },
            )
        )
    if tilt is not None and tilt.downwind_m > 0.2:
        text = f"After hours of this blow the warm layer lies {{tilt_m}} deeper at the {compass_word(downwind)} end."
        notes.append(Phrase(text, {"tilt_m": tilt.downwind_m}))
    held_jm2 = layers.stability_jm2
    if layers.thermocline_m is not None and held_jm2 is not None and held_jm2 < WEAK_LAYERS_JM2:
        notes.append(Phrase("The layers are weak: a day of strong wind would mix them."))
    return WindEffects(
        cast_deg=sides,
        gathers_deg=downwind,
        waves=raised,
        boat_mps=plain,
        boat_with_drogue_mps=held,
        tilt=tilt,
        notes=tuple(notes),
    )
