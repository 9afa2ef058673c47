"""A lake carried on by its weather, hour by hour: one column of layers for each of an ensemble of lakes.

Each hour the surface takes and gives heat, light warms what it reaches, a stream comes in as deep as it is heavy, water that
has become heavier than what lies under it sinks, and the wind stirs as deep as its work reaches. Between them heat creeps down
slowly. Oxygen is carried along by the same mixing, exchanged with the air at the top, and used up below and at the bottom.
"""

from __future__ import annotations

import math

from stillthread.drag.compiled import compiled, inlined
from stillthread.errors import FloatArray
from stillthread.lake.heat import (
    _ALBEDO,
    _DRAG,
    _EMISSIVITY,
    _NEAR_INFRARED,
    _TAKES_IN,
    GRAVITY_MS2,
    ICE_ALBEDO,
    ICE_JM3,
    ICE_LETS_THROUGH,
    ICE_WMK,
    KELVIN,
    STEFAN_BOLTZMANN,
    WATER_HEAT_JM3K,
    air_kgm3,
    density,
    sky_wm2,
    turbulent_wm2,
)
from stillthread.sourced import Sourced

HOUR_S = 3600.0  # by definition
DIFFUSE_EVERY_H = 6  # ours: what is slow is reckoned four times a day

WEDDERBURN = 0.5  # ours, of imberger-hamblin-1982: under one half the whole top slides over the rest
SLIDES_AT = 0.3  # pollard-1973, who has it between a quarter and one
DIFFUSIVITY_N2 = Sourced(7e-5, "1/s2", "hondzo-stefan-1993", "a steeper layer than this lets less heat through")
DIFFUSIVITY_POWER = Sourced(0.43, "1", "hondzo-stefan-1993", "by this power of its stability")
MUD_M, MUD_WMK, MUD_JM3K = 0.7, 1.2, 2.5e6  # ours: so much mud takes part; it conducts and holds heat as wet mud does
GAS_CMH, GAS_PER_WIND, GAS_POWER = 2.07, 0.215, 1.7  # cole-caraco-1998, k600 by the wind
UNDER_ICE_WMK = 2.4  # ours: four times what still water conducts: it is never quite still
DEMAND_IN_WATER = 0.4  # ours: share of what is used up that is used in the water, the rest at the bottom
DEMAND_Q10 = 2.0  # ours: twice as fast in water ten degrees warmer
DEMAND_AT_C = 8.0  # ours: the deep water of the lakes it was measured in

# The columns, by definition, of `member`: what one lake of the ensemble has of its own.
SHELTER, ATTENUATION, STIRRING, DIFFUSIVITY, AIR, SKY, CLOUDINESS, SUN, MUD, DEMAND = range(10)
MEMBER_N = 10  # by definition
# The columns, by definition, of `weather`, one row an hour. `LONG` is nan where it was not measured.
SHORT, LONG, AIR_C, VAPOUR, WIND, CLOUD, PRESSURE, INFLOW, INFLOW_C, OUTLET = range(10)
WEATHER_N = 10  # by definition

_N2, _POWER = float(DIFFUSIVITY_N2), float(DIFFUSIVITY_POWER)


@inlined
def _mix(values: FloatArray, volume: FloatArray, top: int, end: int) -> None:
    whole, amount = 0.0, 0.0
    for i in range(top, end):
        whole += volume[i]
        amount += volume[i] * values[i]
    for i in range(top, end):
        values[i] = amount / whole


@compiled
def _overturn(water: FloatArray, oxygen: FloatArray, volume: FloatArray) -> None:
    """Let water that is heavier than what lies under it sink, until none is."""
    n = len(water)
    i, weighs = 0, density(water[0])
    while i < n - 1:
        below = density(water[i + 1])
        if weighs <= below + 1e-9:
            i, weighs = i + 1, below
            continue
        top, end = i, i + 2
        while True:
            _mix(water, volume, top, end)
            if end < n and density(water[end - 1]) > density(water[end]) + 1e-9:
                end += 1
            elif top > 0 and density(water[top - 1]) > density(water[top]) + 1e-9:
                top -= 1
            else:
                break
        _mix(oxygen, volume, top, end)
        i, weighs = end - 1, density(water[end - 1])


@compiled
def _stir(work_j: float, water: FloatArray, oxygen: FloatArray, volume: FloatArray, middle: FloatArray) -> None:
    """Spend the wind's work on lifting the water below into what is mixed; the last layer is mixed in part."""
    n = len(water)
    mixed_m3, centre = volume[0], middle[0]
    warm, gas = water[0], oxygen[0]
    end = 1
    while end < n:
        lift_j = (
            GRAVITY_MS2
            * mixed_m3 * volume[end] / (mixed_m3 + volume[end])
            * (density(water[end]) - density(warm)) * (middle[end] - centre)
        )  # fmt: skip
        share = 1.0 if lift_j <= work_j else work_j / lift_j
        together = mixed_m3 + volume[end]
        both = (mixed_m3 * warm + volume[end] * water[end]) / together
        both_gas = (mixed_m3 * gas + volume[end] * oxygen[end]) / together
        if share < 1.0:
            warm += share * (both - warm)
            gas += share * (both_gas - gas)
            water[end] += share * (both - water[end])
            oxygen[end] += share * (both_gas - oxygen[end])
            break
        work_j -= max(lift_j, 0.0)
        centre = (mixed_m3 * centre + volume[end] * middle[end]) / together
        mixed_m3, warm, gas = together, both, both_gas
        end += 1
    for i in range(end):
        water[i], oxygen[i] = warm, gas


@compiled
def _shear(push: float, length_m: float, water: FloatArray, oxygen: FloatArray, volume: FloatArray, middle: FloatArray) -> None:
    """Let the top slide over what lies below where the wind tilts it faster than its weight holds it level.

    That is where the Wedderburn number is low (imberger-hamblin-1982). It comes about as the wind speeds the top up until the
    step between is no longer stable: a bulk Richardson number of `SLIDES_AT` (pollard-1973).
    """
    n = len(water)
    end, depth = 1, 2.0 * middle[0]
    while end < n:
        while end < n and abs(water[end] - water[0]) < 1e-6:
            depth += 2.0 * (middle[end] - depth)
            end += 1
        if end >= n:
            return
        lighter = GRAVITY_MS2 / 1000.0 * (density(water[end]) - density(water[0]))
        if lighter * depth * depth > WEDDERBURN * push * length_m:
            return
        begins_s = depth * math.sqrt(max(lighter * depth, 0.0) / SLIDES_AT) / max(push, 1e-9)
        share = HOUR_S / max(begins_s, HOUR_S)
        whole = volume[end]
        warm, gas = volume[end] * water[end], volume[end] * oxygen[end]
        for i in range(end):
            whole += volume[i]
            warm += volume[i] * water[i]
            gas += volume[i] * oxygen[i]
        for i in range(end + 1):
            water[i] += share * (warm / whole - water[i])
            oxygen[i] += share * (gas / whole - oxygen[i])
        if share < 1.0:
            return
    return


@compiled
def _diffuse(
    spread_m2s: float, seconds: float, water: FloatArray, oxygen: FloatArray, volume: FloatArray, middle: FloatArray,
    area: FloatArray, a: FloatArray, b: FloatArray,
) -> None:  # fmt: skip
    """Let heat and oxygen creep between layers, the less the more stable they lie: implicit, so no step is too long."""
    n = len(water)
    for i in range(n - 1):
        apart = middle[i + 1] - middle[i]
        n2 = GRAVITY_MS2 / 1000.0 * max(density(water[i + 1]) - density(water[i]), 0.0) / apart
        k = spread_m2s if n2 <= _N2 else spread_m2s * math.pow(_N2 / n2, _POWER)
        a[i] = k * area[i + 1] * seconds / apart
    # Thomas' algorithm for both at once: they share the matrix.
    upper, lower = b, 0.0
    for i in range(n):
        below = a[i] if i < n - 1 else 0.0
        middle_term = volume[i] + lower + below
        if i > 0:
            factor = lower / upper[n + i - 1]
            middle_term -= factor * lower
            water[i] = volume[i] * water[i] + factor * water[i - 1]
            oxygen[i] = volume[i] * oxygen[i] + factor * oxygen[i - 1]
        else:
            water[i] *= volume[i]
            oxygen[i] *= volume[i]
        upper[n + i] = middle_term
        lower = below
    for i in range(n - 1, -1, -1):
        if i < n - 1:
            water[i] += a[i] * water[i + 1]
            oxygen[i] += a[i] * oxygen[i + 1]
        water[i] /= upper[n + i]
        oxygen[i] /= upper[n + i]


@compiled
def _flow(
    flow_m3: float, warm: float, gas: float, outlet_m: float, water: FloatArray, oxygen: FloatArray, volume: FloatArray,
    middle: FloatArray,
) -> float:  # fmt: skip
    """Let a stream in as deep as it is heavy, and as much out at the outlet; what lies between moves over. Return the warmth
    that stays, as heat over that of a cubic metre [C m3]."""
    n = len(water)
    weighs = density(warm)
    k = 0
    while k < n - 1 and density(water[k]) < weighs - 1e-9:
        k += 1
    outlet = 0
    while outlet < n - 1 and middle[outlet] < outlet_m:
        outlet += 1
    comes, brings = warm, gas
    i = k
    while True:
        share = flow_m3 / (volume[i] + flow_m3)
        water[i] += share * (comes - water[i])
        oxygen[i] += share * (brings - oxygen[i])
        comes, brings = water[i], oxygen[i]
        if i == outlet:
            return float(flow_m3 * (warm - comes))
        i += 1 if outlet > i else -1


@inlined
def _holds_mgl(water_c: float, pressure_hpa: float) -> float:
    """Return the oxygen in balance with the air [mg/L]: `oxygen_saturation_mgl` within 2 %, without its checks."""
    k = max(water_c, 0.0) + KELVIN
    sea = math.exp(-139.34411 + 1.575701e5 / k - 6.642308e7 / k**2 + 1.243800e10 / k**3 - 8.621949e11 / k**4)
    return sea * pressure_hpa / 1013.25


@compiled
def carry(
    water: FloatArray, oxygen: FloatArray, mud: FloatArray, ice: FloatArray, gained: FloatArray, member: FloatArray,
    weather: FloatArray, middle: FloatArray, areas: FloatArray, volumes: FloatArray, extra_c: FloatArray, length_m: float,
    demand_mgm2s: float, first_hour: int, kept_water: FloatArray, kept_oxygen: FloatArray, kept_ice: FloatArray,
    keep_every_h: int,
) -> None:  # fmt: skip
    """Carry an ensemble on by so many hours of weather, in place.

    Shapes: `water` [C], `oxygen` [mg/L], `mud` [C] (m, n); `ice` [m], `gained` [J, of heat and of ice, summed] (m,); `member`
    (m, MEMBER_N); `weather` (h, WEATHER_N); `middle` [m] (n,); `areas` [m2] (m, n + 1), `volumes` [m3] (m, n); `extra_c` (h,),
    the doubt of each hour's air, in parts of the member's own; `length_m` of the lake along the wind. What is kept, at each
    `keep_every_h` hours, has the shapes (h // keep_every_h, m, n) and (h // keep_every_h, m).
    """
    n = len(middle)
    a, b = middle.copy(), areas[0].repeat(2)
    let_through = areas[0].copy()
    for j in range(len(water)):
        t, o, mud_c, area, volume = water[j], oxygen[j], mud[j], areas[j], volumes[j]
        own = member[j]
        edge = 0.0
        for i in range(n):
            let_through[i] = (1.0 - _NEAR_INFRARED) * math.exp(-own[ATTENUATION] * edge)
            edge += 2.0 * (middle[i] - edge)
        let_through[0] = 1.0
        let_through[n] = 0.0
        bottom_used = demand_mgm2s * own[DEMAND]
        for hour in range(len(weather)):
            now = weather[hour]
            air_c = now[AIR_C] + own[AIR] * extra_c[hour]
            wind = now[WIND] * own[SHELTER]
            cloud = min(max(now[CLOUD] + own[CLOUDINESS] * extra_c[hour], 0.0), 1.0)
            down = now[LONG] if now[LONG] == now[LONG] else sky_wm2(air_c, now[VAPOUR], cloud)
            down += own[SKY]
            sun = max(now[SHORT], 0.0) * own[SUN]
            top_heat = volume[0] * WATER_HEAT_JM3K
            if ice[j] > 0.0:
                # A lid: the wind does not reach the water, little light does, and heat goes through it as ice conducts.
                through = ICE_LETS_THROUGH * (1.0 - ICE_ALBEDO) * sun
                kept = (1.0 - ICE_ALBEDO) * sun - through
                at_melt = (
                    kept
                    + (_TAKES_IN * down - _EMISSIVITY * STEFAN_BOLTZMANN * KELVIN**4)
                    - turbulent_wm2(0.0, air_c, now[VAPOUR], wind, now[PRESSURE])
                )
                under_c = max(t[0], 0.0)
                from_water = UNDER_ICE_WMK * under_c / middle[0]
                # As cold as the top of the ice lets it be: it gives what ice of this thickness brings up.
                brings = ICE_WMK * max(-air_c, 0.0) / max(ice[j], 0.02)
                net = at_melt if at_melt > 0.0 else -min(-at_melt, brings)
                gained[j] += HOUR_S * area[0] * net
                ice[j] -= HOUR_S * (net + from_water) / ICE_JM3
                t[0] -= HOUR_S * area[0] * from_water / top_heat
                if ice[j] < 0.0:
                    t[0] += -ice[j] * ICE_JM3 * area[0] / top_heat
                    ice[j] = 0.0
                light = through
            else:
                net = (_TAKES_IN * down - _EMISSIVITY * STEFAN_BOLTZMANN * (t[0] + KELVIN) ** 4) - turbulent_wm2(
                    t[0], air_c, now[VAPOUR], wind, now[PRESSURE]
                )
                gained[j] += HOUR_S * area[0] * net
                t[0] += HOUR_S * area[0] * net / top_heat
                light = (1.0 - _ALBEDO) * sun
            if light > 0.0:
                gained[j] += HOUR_S * area[0] * light
                for i in range(n):
                    # What reaches the lake's bed at the side of a layer warms that layer.
                    stays = light * (area[i] * let_through[i] - (area[i + 1] * let_through[i + 1] if i < n - 1 else 0.0))
                    t[i] += HOUR_S * stays / (volume[i] * WATER_HEAT_JM3K)
            if now[INFLOW] > 0.0:
                brings_mgl = _holds_mgl(now[INFLOW_C], now[PRESSURE])
                stays_cm3 = _flow(HOUR_S * now[INFLOW], now[INFLOW_C], brings_mgl, now[OUTLET], t, o, volume, middle)
                gained[j] += stays_cm3 * WATER_HEAT_JM3K
            if t[0] < 0.0:
                ice[j] += -t[0] * top_heat / (ICE_JM3 * area[0])
                t[0] = 0.0
            _overturn(t, o, volume)
            if ice[j] == 0.0:
                push = air_kgm3(air_c, now[PRESSURE]) * _DRAG * wind * wind / 1000.0
                _shear(push, length_m, t, o, volume, middle)
                _stir(own[STIRRING] * 1000.0 * push * math.sqrt(push) * area[0] * HOUR_S, t, o, volume, middle)
                speed = (GAS_CMH + GAS_PER_WIND * math.pow(wind, GAS_POWER)) / 100.0
                reached = 1.0 - math.exp(-speed * area[0] / volume[0])
                o[0] += reached * (_holds_mgl(t[0], now[PRESSURE]) - o[0])
            if (first_hour + hour) % DIFFUSE_EVERY_H == 0:
                seconds = HOUR_S * DIFFUSE_EVERY_H
                for i in range(n):
                    bed = area[i] - area[i + 1] if i < n - 1 else area[i]
                    flow = own[MUD] * MUD_WMK / (0.5 * MUD_M) * bed * (mud_c[i] - t[i]) * seconds
                    t[i] += flow / (volume[i] * WATER_HEAT_JM3K)
                    mud_c[i] -= flow / (max(bed, 1e-6) * MUD_M * MUD_JM3K)
                    used = math.pow(DEMAND_Q10, 0.1 * (t[i] - DEMAND_AT_C)) * bottom_used * seconds / 1000.0
                    # The bottom's part where there is bottom, the water's by how much water there is.
                    lost = used * ((1.0 - DEMAND_IN_WATER) * bed / volume[i] + DEMAND_IN_WATER / (0.5 * middle[n - 1]))
                    o[i] = max(o[i] - lost, 0.0)
                _diffuse(own[DIFFUSIVITY], seconds, t, o, volume, middle, area, a, b)
                _overturn(t, o, volume)
            if (hour + 1) % keep_every_h == 0:
                k = (hour + 1) // keep_every_h - 1
                kept_water[k, j] = t
                kept_oxygen[k, j] = o
                kept_ice[k, j] = ice[j]


@compiled
def settle(water: FloatArray, oxygen: FloatArray, volumes: FloatArray) -> None:
    """Let what is heavier sink in each lake of an ensemble, in place: shapes as in `carry`."""
    for j in range(len(water)):
        _overturn(water[j], oxygen[j], volumes[j])
