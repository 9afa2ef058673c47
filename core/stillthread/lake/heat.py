"""What a lake's surface takes from the sun and the air, and gives back, each hour: formulas alone."""

from __future__ import annotations

import math

from stillthread.drag.compiled import inlined
from stillthread.sourced import Sourced

STEFAN_BOLTZMANN = 5.670374e-8  # W/m2 K4, by definition
KELVIN = 273.15  # by definition
WATER_HEAT_JM3K = 4.18e6  # J/m3 K, by definition of water near 15 C
GAS_JKGK, AIR_HEAT_JKGK = 287.05, 1005.0  # by definition of dry air
ICE_JM3, ICE_WMK = 3.06e8, 2.2  # by definition of ice: heat to melt a cubic metre, and how it conducts
GRAVITY_MS2 = 9.80665  # by definition

EMISSIVITY = Sourced(0.985, "1", "hipsey-2019", "of water, for what it radiates")
TAKES_IN = Sourced(0.97, "1", "hipsey-2019", "of the sky's long wave; the rest is thrown back")
ALBEDO = Sourced(0.08, "1", "hipsey-2019", "of water, over the day")
EXCHANGE = Sourced(
    1.3e-3, "1", "hipsey-2019", "bulk coefficient of heat and of vapour at ten metres, air neither stable nor not"
)
DRAG = Sourced(1.3e-3, "1", "hipsey-2019", "the same of the wind's push")
NEAR_INFRARED = Sourced(0.4, "1", "henderson-sellers-1986", "share of sunlight that ends in the uppermost half metre")
LEAST_WIND_MPS = 0.3  # ours: no air is quite still
ICE_ALBEDO, ICE_LETS_THROUGH = 0.5, 0.15  # ours: ice with a little snow; nobody tells of the snow

_EMISSIVITY, _TAKES_IN, _ALBEDO = float(EMISSIVITY), float(TAKES_IN), float(ALBEDO)
_EXCHANGE, _DRAG, _NEAR_INFRARED = float(EXCHANGE), float(DRAG), float(NEAR_INFRARED)


@inlined
def vapour_hpa(air_c: float) -> float:
    """Return the pressure of vapour over water at a temperature [C] when the air holds no more [hPa] (bolton-1980)."""
    return 6.112 * math.exp(17.67 * air_c / (air_c + 243.5))


@inlined
def sky_wm2(air_c: float, vapour: float, cloud: float) -> float:
    """Return the long wave that comes down [W/m2]: a clear sky's (brutsaert-1975), and cloud's (unsworth-monteith-1975)."""
    kelvin = air_c + KELVIN
    clear = 1.24 * math.pow(max(vapour, 0.5) / kelvin, 1.0 / 7.0)
    share = (1.0 - 0.84 * cloud) * clear + 0.84 * cloud
    return share * STEFAN_BOLTZMANN * kelvin**4


@inlined
def air_kgm3(air_c: float, pressure_hpa: float) -> float:
    return 100.0 * pressure_hpa / (GAS_JKGK * (air_c + KELVIN))


@inlined
def turbulent_wm2(water_c: float, air_c: float, vapour: float, wind_mps: float, pressure_hpa: float) -> float:
    """Return what the water loses to moving air, in warmth and vapour [W/m2] (bulk formulas)."""
    wind = max(wind_mps, LEAST_WIND_MPS)
    moved = _EXCHANGE * air_kgm3(air_c, pressure_hpa) * wind
    over = vapour_hpa(water_c)
    q_water = 0.622 * over / (pressure_hpa - 0.378 * over)
    q_air = 0.622 * vapour / (pressure_hpa - 0.378 * vapour)
    return moved * (AIR_HEAT_JKGK * (water_c - air_c) + (2.501e6 - 2361.0 * water_c) * (q_water - q_air))


@inlined
def density(water_c: float) -> float:
    """Return the density of fresh water [kg/m3], as `water_density_kgm3` has it (tanaka-2001), without its checks."""
    return 999.974950 * (1.0 - (water_c - 3.983035) ** 2 * (water_c + 301.797) / (522528.9 * (water_c + 69.34881)))
