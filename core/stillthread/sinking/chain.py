"""The sinking thread: an inextensible, overdamped chain in the vertical plane, compiled.

Along the chain `i` counts nodes from the rod tip; segment `i` joins node `i - 1` to node `i`. Arrays are
(n_node,) unless said otherwise; entry 0 of a segment array is unused. x runs away from the rod [m], z downward
[m] with 0 at the surface.

Inertia is left out: a line reaches its terminal speed within hundredths of a second. Each step solves, for the
displacement d of every node and the tension T of every segment at once,

    drag(d / dt - water) = weight + tension(d),   |segment| = rest length,

with drag linearised about the last speeds and the tension's direction taken to first order in d (a linearly
implicit step), so that thin tippets and heavy flies stay stable at steps of a tenth of a second. The system is
block tridiagonal; it is condensed from the fly to the rod and solved on the way back, in one pass each. A thread
does not push: a segment whose tension would be negative is slack, and is decided again within the step.
"""

from __future__ import annotations

import math

import numpy as np
from numba import njit

from stillthread.errors import FloatArray
from stillthread.sinking.drag import SKIN_FRICTION, cylinder_cd, sphere_cd

__all__ = ["COUNTING", "HANGING", "LIFTING", "RETRIEVING", "SKIN_FRICTION", "run_chain"]

# Depth over which a buoyant thread comes out of the water and its lift ramps to nothing [m].
_SURFACE_RAMP_M = 0.02
# Stiffness of surface and bottom as seen by one node [N/m]: a millimetre or two under a usual fly.
_GROUND_NPM = 3.0
_BOTTOM_FRICTION = 0.4
_SLOWEST_MS = 1e-4
_PASSES = 4
# Steps shrink while the chain whips about (a heavy fly landing), so that lengths hold to about this share.
_STRETCH = 0.002
_SHORTEST_STEP_S = 0.004

# Columns of `pace`, the plan of one cast.
PACE_COUNT_S, PACE_STOP_M, PACE_LIFT_M, PACE_LIFT_MPS, PACE_HANG_S, PACE_LONGEST_S = range(6)
# Columns of `water`.
WATER_DENSITY, WATER_VISCOSITY, WATER_DRIFT_MS, WATER_DRIFT_DECAY_M = range(4)
# What the chain is doing, as recorded in `phase`.
COUNTING, RETRIEVING, LIFTING, HANGING = range(4)


@njit(cache=True, nogil=True)
def _interpolate(at: float, xs: FloatArray, ys: FloatArray) -> float:
    """Linear interpolation held at the ends, without numpy's call overhead."""
    if at <= xs[0]:
        return float(ys[0])
    for k in range(1, xs.shape[0]):
        if at <= xs[k]:
            return float(ys[k - 1] + (ys[k] - ys[k - 1]) * (at - xs[k - 1]) / (xs[k] - xs[k - 1]))
    return float(ys[-1])


@njit(cache=True, nogil=True, error_model="numpy")
def run_chain(
    x: FloatArray,
    z: FloatArray,
    rest_m: FloatArray,
    weight_npm: FloatArray,
    diameter_m: FloatArray,
    skin: FloatArray,
    point_weight_n: FloatArray,
    point_diameter_m: FloatArray,
    flies: np.ndarray,
    water: FloatArray,
    bottom_x: FloatArray,
    bottom_z: FloatArray,
    tip_speed_ms: float,
    pattern_s: FloatArray,
    pattern_mps: FloatArray,
    pace: FloatArray,
    dt_s: float,
    sample_s: float,
    layer_m: float,
    n_layer: int,
) -> tuple[FloatArray, np.ndarray, FloatArray, FloatArray, FloatArray, FloatArray, FloatArray, float]:
    """Run one cast and return what happened.

    `x`, `z` and `rest_m` are used up. `weight_npm`, `diameter_m` and `skin` belong to segments, `point_*` to nodes
    (a fly, bead or float; weight negative if buoyant). `flies` are the nodes to report, shape (n_fly,).
    The rod tip holds still for the count, then takes in line by the repeated pattern (`pattern_s` long,
    `pattern_mps` fast, shape (n_pull,)) until `PACE_STOP_M` is out, lifts `PACE_LIFT_M`, and hangs.

    Returns time_s (n_time,), phase (n_time,), out_m (n_time,), path (n_time, n_node, 2), tension_n (n_time,) at the
    rod, layer_s (n_fly, n_layer) seconds in each layer from landing to the end, contact_s (n_fly,) seconds on the
    bottom, and the largest relative error of a taut segment's length.
    """
    n = x.shape[0]
    most = int(pace[PACE_LONGEST_S] / sample_s) + 8
    time_s = np.zeros(most)
    phase_at = np.zeros(most, dtype=np.int64)
    out_at = np.zeros(most)
    tension_at = np.zeros(most)
    path = np.zeros((most, n, 2))
    layer_s = np.zeros((flies.shape[0], n_layer))
    contact_s = np.zeros(flies.shape[0])

    rho, mu = water[WATER_DENSITY], water[WATER_VISCOSITY]
    drift, decay = water[WATER_DRIFT_MS], water[WATER_DRIFT_DECAY_M]
    tension = np.zeros(n)
    slack = np.zeros(n, dtype=np.bool_)
    speed_n = np.full(n, 0.02)
    speed_t = np.full(n, 0.02)
    speed_p = np.full(n, 0.05)
    tx = np.zeros(n)
    tz = np.zeros(n)
    length = np.zeros(n)
    axx = np.zeros(n)
    axz = np.zeros(n)
    azz = np.zeros(n)
    fx = np.zeros(n)
    fz = np.zeros(n)
    dx = np.zeros(n)
    dz = np.zeros(n)
    cxx = np.zeros(n)
    cxz = np.zeros(n)
    czz = np.zeros(n)
    hx = np.zeros(n)
    hz = np.zeros(n)
    tau0 = np.zeros(n)
    taux = np.zeros(n)
    tauz = np.zeros(n)
    kk = np.zeros(n)

    first = 0  # the node at the rod tip; those before it are on the reel
    nominal = rest_m[1:].max() if n > 1 else 1.0
    now = 0.0
    phase = COUNTING
    phase_end = pace[PACE_COUNT_S]
    pull_at, pull_left = 0, pattern_s[0]
    out = rest_m.sum()
    samples = 0
    next_sample = 0.0
    worst = 0.0
    calm_s = 2.0 * _SHORTEST_STEP_S

    while True:
        # What to do now, and for how long until that changes.
        step = calm_s
        pull = 0.0
        if phase in (COUNTING, HANGING):
            step = min(step, phase_end - now)
        elif phase == RETRIEVING:
            pull = pattern_mps[pull_at]
            step = min(step, pull_left)
        else:
            pull = pace[PACE_LIFT_MPS]
            step = min(step, phase_end - now)
        if now >= next_sample - 1e-9 and samples < most:
            time_s[samples] = now
            phase_at[samples] = phase
            out_at[samples] = out
            tension_at[samples] = tension[first + 1]
            for i in range(n):
                j = i if i > first else first
                path[samples, i, 0] = x[j]
                path[samples, i, 1] = z[j]
            samples += 1
            next_sample += sample_s
        if step > 1e-9:
            taken = min(pull * step, max(out - (pace[PACE_STOP_M] if phase == RETRIEVING else 0.0), 0.0))
            taken = min(taken, max(out - 0.3, 0.0))
            out -= taken
            rest_m[first + 1] -= taken
            while first < n - 2 and rest_m[first + 1] < 0.15 * min(rest_m[first + 2], nominal):
                left = rest_m[first + 1]
                tip_x = x[first]
                first += 1
                rest_m[first + 1] += left
                x[first], z[first] = tip_x, 0.0
                tension[first + 1] = min(tension[first + 1], tension[first])
            tip_dx = tip_speed_ms * step

            # Forces and drag at the positions and speeds of the last step.
            for i in range(first, n):
                axx[i] = axz[i] = azz[i] = fx[i] = fz[i] = 0.0
            for i in range(first + 1, n):
                ex, ez = x[i] - x[i - 1], z[i] - z[i - 1]
                size = math.sqrt(ex * ex + ez * ez)
                length[i] = size
                if size < 1e-7:
                    tx[i], tz[i] = 0.0, 1.0
                    slack[i] = True
                else:
                    tx[i], tz[i] = ex / size, ez / size
                d = diameter_m[i]
                vn, vt = speed_n[i], speed_t[i]
                half = 0.5 * rest_m[i]
                cn = half * 0.5 * rho * cylinder_cd(rho * vn * d / mu) * d * vn / step
                ct = half * (0.5 * rho * skin[i] * math.pi * d * vt + 2.0 * mu) / step
                nxx, nxz, nzz = tz[i] * tz[i], -tx[i] * tz[i], tx[i] * tx[i]
                bxx = cn * nxx + ct * nzz
                bxz = (cn - ct) * nxz
                bzz = cn * nzz + ct * nxx
                for j in (i - 1, i):
                    axx[j] += bxx
                    axz[j] += bxz
                    azz[j] += bzz
                    if drift != 0.0:
                        move = drift * math.exp(-max(z[j], 0.0) / decay) * step
                        fx[j] += bxx * move
                        fz[j] += bxz * move
                    w = weight_npm[i] * half
                    if w >= 0.0 or z[j] > _SURFACE_RAMP_M:
                        fz[j] += w
                    else:
                        fz[j] += w * max(z[j], 0.0) / _SURFACE_RAMP_M
                        azz[j] -= w / _SURFACE_RAMP_M
            for i in range(first + 1, n):
                d = point_diameter_m[i]
                if d > 0.0:
                    v = speed_p[i]
                    c = 0.125 * math.pi * d * d * rho * sphere_cd(rho * v * d / mu) * v / step
                    axx[i] += c
                    azz[i] += c
                    if drift != 0.0:
                        fx[i] += c * drift * math.exp(-max(z[i], 0.0) / decay) * step
                w = point_weight_n[i]
                if w >= 0.0 or z[i] > _SURFACE_RAMP_M:
                    fz[i] += w
                else:
                    fz[i] += w * max(z[i], 0.0) / _SURFACE_RAMP_M
                    azz[i] -= w / _SURFACE_RAMP_M
                if z[i] < 0.0:
                    fz[i] -= _GROUND_NPM * z[i]
                    azz[i] += _GROUND_NPM
                floor = _interpolate(x[i], bottom_x, bottom_z)
                deep = z[i] - floor
                if deep >= -1e-3:
                    # The bottom carries what rests on it, and drags on it.
                    push = _GROUND_NPM * max(deep + 1e-3, 0.0)
                    fz[i] -= push
                    azz[i] += _GROUND_NPM
                    axx[i] += _BOTTOM_FRICTION * push / (abs(dx[i]) + 0.002 * step)

            changed = True
            passes = 0
            while changed and passes < _PASSES:
                passes += 1
                # Condense from the fly to the rod: the pull of all that hangs outward of node i, as g - S d.
                sxx = sxz = szz = gx = gz = 0.0
                for i in range(n - 1, first, -1):
                    k = 0.0 if slack[i] else max(tension[i], 0.0) / rest_m[i]
                    kk[i] = k
                    pxx, pxz, pzz = k * tz[i] * tz[i], -k * tx[i] * tz[i], k * tx[i] * tx[i]
                    bxx = axx[i] + sxx + pxx
                    bxz = axz[i] + sxz + pxz
                    bzz = azz[i] + szz + pzz
                    rx, rz = fx[i] + gx, fz[i] + gz
                    det = bxx * bzz - bxz * bxz
                    ixx, ixz, izz = bzz / det, -bxz / det, bxx / det
                    cxx[i], cxz[i], czz[i] = ixx, ixz, izz
                    hx[i], hz[i] = ixx * rx + ixz * rz, ixz * rx + izz * rz
                    if slack[i]:
                        sxx = sxz = szz = gx = gz = 0.0
                        continue
                    # M = C K, with K = k (1 - t t'); tension as tau0 + tau . d of the inner node.
                    mxx, mxz = ixx * pxx + ixz * pxz, ixx * pxz + ixz * pzz
                    mzx, mzz = ixz * pxx + izz * pxz, ixz * pxz + izz * pzz
                    ctx, ctz = ixx * tx[i] + ixz * tz[i], ixz * tx[i] + izz * tz[i]
                    give = tx[i] * ctx + tz[i] * ctz
                    gap = rest_m[i] - length[i]
                    tau0[i] = (tx[i] * hx[i] + tz[i] * hz[i] - gap) / give
                    taux[i] = (tx[i] * mxx + tz[i] * mzx - tx[i]) / give
                    tauz[i] = (tx[i] * mxz + tz[i] * mzz - tz[i]) / give
                    # Force on node i - 1: T t + K (d_i - d_(i-1)).
                    ax, az = hx[i] - ctx * tau0[i], hz[i] - ctz * tau0[i]
                    qxx, qxz = mxx - ctx * taux[i], mxz - ctx * tauz[i]
                    qzx, qzz = mzx - ctz * taux[i], mzz - ctz * tauz[i]
                    gx = tau0[i] * tx[i] + pxx * ax + pxz * az
                    gz = tau0[i] * tz[i] + pxz * ax + pzz * az
                    sxx = -(taux[i] * tx[i] + pxx * (qxx - 1.0) + pxz * qzx)
                    szz = -(tauz[i] * tz[i] + pxz * qxz + pzz * (qzz - 1.0))
                    sxz = -0.5 * (
                        tauz[i] * tx[i] + pxx * qxz + pxz * (qzz - 1.0) + taux[i] * tz[i] + pxz * (qxx - 1.0) + pzz * qzx
                    )
                dx[first], dz[first] = tip_dx, 0.0
                changed = False
                for i in range(first + 1, n):
                    ux, uz = dx[i - 1], dz[i - 1]
                    if slack[i]:
                        tension[i] = 0.0
                        dx[i], dz[i] = hx[i], hz[i]
                        ex = x[i] + dx[i] - x[i - 1] - ux
                        ez = z[i] + dz[i] - z[i - 1] - uz
                        if passes < _PASSES and ex * ex + ez * ez > rest_m[i] * rest_m[i] * 1.0001 and length[i] >= 1e-7:
                            slack[i] = False
                            changed = True
                        continue
                    pull_n = tau0[i] + taux[i] * ux + tauz[i] * uz
                    across = kk[i] * (tz[i] * ux - tx[i] * uz)
                    rx = -pull_n * tx[i] + across * tz[i]
                    rz = -pull_n * tz[i] - across * tx[i]
                    dx[i] = hx[i] + cxx[i] * rx + cxz[i] * rz
                    dz[i] = hz[i] + cxz[i] * rx + czz[i] * rz
                    if pull_n < -1e-9 and passes < _PASSES:
                        slack[i] = True
                        changed = True
                    tension[i] = max(pull_n, 0.0)

            # Move, and remember speeds through the water. Averaging old and new is Heron's rule for the square root
            # that quadratic drag asks for: it converges where the plain iteration would swing for ever.
            for i in range(first, n):
                x[i] += dx[i]
                z[i] += dz[i]
                if i > first:
                    if z[i] < 0.0:
                        z[i] = 0.0
                    floor = _interpolate(x[i], bottom_x, bottom_z)
                    if z[i] > floor:
                        z[i] = floor
            stretch = 0.0
            for i in range(first + 1, n):
                mx, mz = 0.5 * (dx[i] + dx[i - 1]) / step, 0.5 * (dz[i] + dz[i - 1]) / step
                if drift != 0.0:
                    mx -= drift * math.exp(-0.5 * (z[i] + z[i - 1]) / decay)
                speed_t[i] = max(0.5 * (speed_t[i] + abs(mx * tx[i] + mz * tz[i])), _SLOWEST_MS)
                speed_n[i] = max(0.5 * (speed_n[i] + abs(mx * tz[i] - mz * tx[i])), _SLOWEST_MS)
                vx = dx[i] / step - (drift * math.exp(-z[i] / decay) if drift != 0.0 else 0.0)
                vz = dz[i] / step
                speed_p[i] = max(0.5 * (speed_p[i] + math.sqrt(vx * vx + vz * vz)), _SLOWEST_MS)
                if not slack[i]:
                    ex, ez = x[i] - x[i - 1], z[i] - z[i - 1]
                    stretch = max(stretch, abs(math.sqrt(ex * ex + ez * ez) - rest_m[i]) / rest_m[i])
            worst = max(worst, stretch)
            calm_s *= min(1.5, max(0.25, math.sqrt(_STRETCH / (stretch + 1e-9))))
            calm_s = min(dt_s, max(_SHORTEST_STEP_S, calm_s))
            for k in range(flies.shape[0]):
                j = max(flies[k], first)
                layer = min(int(z[j] / layer_m), n_layer - 1)
                layer_s[k, layer] += step
                if z[j] >= _interpolate(x[j], bottom_x, bottom_z) - 0.02:
                    contact_s[k] += step
            now += step

        # Go on to the next phase.
        if phase == COUNTING and now >= phase_end - 1e-9:
            phase = RETRIEVING
            if out <= pace[PACE_STOP_M] + 1e-9:
                phase = LIFTING
                phase_end = now + pace[PACE_LIFT_M] / pace[PACE_LIFT_MPS]
        elif phase == RETRIEVING:
            pull_left -= step
            if pull_left <= 1e-9:
                pull_at = (pull_at + 1) % pattern_s.shape[0]
                pull_left = pattern_s[pull_at]
            if out <= pace[PACE_STOP_M] + 1e-9:
                phase = LIFTING
                phase_end = now + pace[PACE_LIFT_M] / pace[PACE_LIFT_MPS]
        elif phase == LIFTING and now >= phase_end - 1e-9:
            phase = HANGING
            phase_end = now + pace[PACE_HANG_S]
        elif phase == HANGING and now >= phase_end - 1e-9:
            break
        if now >= pace[PACE_LONGEST_S] - 1e-9:
            break
    if samples < most:
        time_s[samples] = now
        phase_at[samples] = phase
        out_at[samples] = out
        tension_at[samples] = tension[first + 1]
        for i in range(n):
            j = i if i > first else first
            path[samples, i, 0] = x[j]
            path[samples, i, 1] = z[j]
        samples += 1
    return (
        time_s[:samples],
        phase_at[:samples],
        out_at[:samples],
        path[:samples],
        tension_at[:samples],
        layer_s,
        contact_s,
        worst,
    )
