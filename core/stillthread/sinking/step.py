"""One step of the chain, compiled: forces and drag, the solve, and the move. The model is told in `chain`."""

from __future__ import annotations

import math

from stillthread.drag.compiled import compiled
from stillthread.drag.laws import cylinder_cd_re, sphere_cd
from stillthread.errors import FloatArray
from stillthread.sinking.groups import Around, Chain, State, Tip

# Depth over which a buoyant thread comes out of the water and its lift ramps to nothing [m].
_SURFACE_RAMP_M = 0.02  # ours: numerics
# Stiffness of surface and bottom as seen by one node [N/m]: a millimetre or two under a usual fly.
GROUND_NPM = 3.0  # ours: numerics
BOTTOM_FRICTION = 0.4  # ours
# Drag along a thin thread at low speed, per metre and in units of viscosity times speed: 4 pi / (ln(4 nu x / U a^2) - 0.58)
# is 1.6 for a metre of tippet (glauert-lighthill-1955); rounded up.
AXIAL_VISCOUS = 2.0
BOTTOM_GIVE_M = 1e-3  # ours: numerics
SLOWEST_MPS = 1e-4  # ours: numerics
PASSES = 4  # ours: numerics
# No segment is left longer than this share beyond its length.
CAP_STRETCH = 0.004  # ours: numerics


@compiled
def interpolate(at: float, xs: FloatArray, ys: FloatArray) -> float:
    """Linear interpolation held at the ends, without numpy's call overhead."""
    if at <= xs[0]:
        return float(ys[0])
    for k in range(1, xs.shape[0]):
        if at <= xs[k]:
            return float(ys[k - 1] + (ys[k] - ys[k - 1]) * (at - xs[k - 1]) / (xs[k] - xs[k - 1]))
    return float(ys[-1])


@compiled
def buoyancy(weight_n: float, z_m: float) -> tuple[float, float]:
    """Return force downward [N] and its stiffness against sinking [N/m]: what floats loses its lift at the surface."""
    if weight_n >= 0.0 or z_m > _SURFACE_RAMP_M:
        return weight_n, 0.0
    return weight_n * max(z_m, 0.0) / _SURFACE_RAMP_M, -weight_n / _SURFACE_RAMP_M


@compiled
def drift_share(z_m: float, around: Around) -> float:
    """Return how fast the water goes at a depth, as a share of the drift at its top; negative where it flows back."""
    return float((1.0 + around.back_share) * math.exp(-max(z_m, 0.0) / around.drift_decay_m) - around.back_share)


@compiled
def assemble(first: int, step_s: float, chain: Chain, around: Around, state: State) -> None:
    """Write lengths, tangents, drag per displacement and forces at these positions, and how fast the water goes there."""
    x, z, rest_m, weight_npm, diameter_m = chain.x, chain.z, chain.rest_m, chain.weight_npm, chain.diameter_m
    skin, point_weight_n, point_diameter_m = chain.skin, chain.point_weight_n, chain.point_diameter_m
    speed, length, tangent, slack, moved_x = state.speed, state.length, state.tangent, state.slack, state.dx
    drag, force, carried = state.drag, state.force, state.carried
    rho, mu, drift = around.density, around.viscosity, around.drift_mps
    n = x.shape[0]
    for i in range(first, n):
        drag[0, i] = drag[1, i] = drag[2, i] = force[0, i] = force[1, i] = 0.0
        if drift != 0.0:
            carried[0, i] = drift * drift_share(z[i], around)
            carried[1, i] = drift * drift_share(0.5 * (z[i] + z[max(i, 1) - 1]), around)
    for i in range(first + 1, n):
        ex, ez = x[i] - x[i - 1], z[i] - z[i - 1]
        size = math.sqrt(ex * ex + ez * ez)
        length[i] = size
        if size < 1e-7:
            ex, ez = 0.0, 1.0
            slack[i] = True
        else:
            ex, ez = ex / size, ez / size
        tangent[0, i], tangent[1, i] = ex, ez
        d = diameter_m[i]
        across, along = speed[0, i], speed[1, i]
        half = 0.5 * rest_m[i]
        cn = half * 0.5 * mu * cylinder_cd_re(rho * across * d / mu) / step_s
        ct = half * (0.5 * rho * skin[i] * math.pi * d * along + AXIAL_VISCOUS * mu) / step_s
        bxx = cn * ez * ez + ct * ex * ex
        bxz = (ct - cn) * ex * ez
        bzz = cn * ex * ex + ct * ez * ez
        for j in (i - 1, i):
            drag[0, j] += bxx
            drag[1, j] += bxz
            drag[2, j] += bzz
            if drift != 0.0:
                went = carried[0, j] * step_s
                force[0, j] += bxx * went
                force[1, j] += bxz * went
            pull, stiff = buoyancy(weight_npm[i] * half, z[j])
            force[1, j] += pull
            drag[2, j] += stiff
    for i in range(first + 1, n):
        d = point_diameter_m[i]
        if d > 0.0:
            v = speed[2, i]
            c = 0.125 * math.pi * d * d * rho * sphere_cd(rho * v * d / mu) * v / step_s
            drag[0, i] += c
            drag[2, i] += c
            if drift != 0.0:
                force[0, i] += c * carried[0, i] * step_s
        pull, stiff = buoyancy(point_weight_n[i], z[i])
        force[1, i] += pull
        drag[2, i] += stiff
        if z[i] < 0.0:
            force[1, i] -= GROUND_NPM * z[i]
            drag[2, i] += GROUND_NPM
        deep = z[i] - interpolate(x[i], around.bottom_x, around.bottom_z)
        if deep >= -BOTTOM_GIVE_M:
            # The bottom carries what rests on it within a millimetre, and drags on it.
            stiff = max(GROUND_NPM, max(force[1, i], 0.0) / BOTTOM_GIVE_M)
            push = stiff * max(deep + BOTTOM_GIVE_M, 0.0)
            force[1, i] -= push
            drag[2, i] += stiff
            drag[0, i] += BOTTOM_FRICTION * push / (abs(moved_x[i]) + 0.002 * step_s)


@compiled
def solve(first: int, tip: Tip, chain: Chain, state: State) -> None:
    """Solve for displacements and tension; a segment that would have to push is slack, and is decided again."""
    x, z, rest_m = chain.x, chain.z, chain.rest_m
    length, tangent, drag, force = state.length, state.tangent, state.drag, state.force
    tension, slack, inverse, free, tau, stiffness = (
        state.tension,
        state.slack,
        state.inverse,
        state.free,
        state.tau,
        state.stiffness,
    )
    dx, dz = state.dx, state.dz
    n = x.shape[0]
    changed = True
    passes = 0
    while changed and passes < PASSES:
        passes += 1
        # Condense from the fly to the rod: the pull of all that hangs outward of node i, as g - S d.
        sxx = sxz = szz = gx = gz = 0.0
        for i in range(n - 1, first, -1):
            tx, tz = tangent[0, i], tangent[1, i]
            k = 0.0 if slack[i] else max(tension[i], 0.0) / rest_m[i]
            stiffness[i] = k
            pxx, pxz, pzz = k * tz * tz, -k * tx * tz, k * tx * tx
            bxx = drag[0, i] + sxx + pxx
            bxz = drag[1, i] + sxz + pxz
            bzz = drag[2, i] + szz + pzz
            rx, rz = force[0, i] + gx, force[1, i] + gz
            det = 1.0 / (bxx * bzz - bxz * bxz)
            ixx, ixz, izz = bzz * det, -bxz * det, bxx * det
            inverse[0, i], inverse[1, i], inverse[2, i] = ixx, ixz, izz
            hx, hz = ixx * rx + ixz * rz, ixz * rx + izz * rz
            free[0, i], free[1, i] = hx, hz
            if slack[i]:
                sxx = sxz = szz = gx = gz = 0.0
                continue
            # M = C K, with K = k (1 - t t'); tension as tau0 + tau . d of the inner node.
            mxx, mxz = ixx * pxx + ixz * pxz, ixx * pxz + ixz * pzz
            mzx, mzz = ixz * pxx + izz * pxz, ixz * pxz + izz * pzz
            ctx, ctz = ixx * tx + ixz * tz, ixz * tx + izz * tz
            give = 1.0 / (tx * ctx + tz * ctz)
            t0 = (tx * hx + tz * hz - rest_m[i] + length[i]) * give
            t1 = (tx * mxx + tz * mzx - tx) * give
            t2 = (tx * mxz + tz * mzz - tz) * give
            tau[0, i], tau[1, i], tau[2, i] = t0, t1, t2
            # Force on node i - 1: T t + K (d_i - d_(i-1)).
            ax, az = hx - ctx * t0, hz - ctz * t0
            qxx, qxz = mxx - ctx * t1, mxz - ctx * t2
            qzx, qzz = mzx - ctz * t1, mzz - ctz * t2
            gx = t0 * tx + pxx * ax + pxz * az
            gz = t0 * tz + pxz * ax + pzz * az
            sxx = -(t1 * tx + pxx * (qxx - 1.0) + pxz * qzx)
            szz = -(t2 * tz + pxz * qxz + pzz * (qzz - 1.0))
            sxz = -0.5 * (t2 * tx + pxx * qxz + pxz * (qzz - 1.0) + t1 * tz + pxz * (qxx - 1.0) + pzz * qzx)
        dx[first], dz[first] = tip.dx, tip.dz
        if tip.drag > 0.0:
            dx[first], dz[first] = (tip.force + gx) / (tip.drag + sxx), 0.0
        changed = False
        for i in range(first + 1, n):
            ux, uz = dx[i - 1], dz[i - 1]
            if slack[i]:
                tension[i] = 0.0
                dx[i], dz[i] = free[0, i], free[1, i]
                ex = x[i] + dx[i] - x[i - 1] - ux
                ez = z[i] + dz[i] - z[i - 1] - uz
                if passes < PASSES and ex * ex + ez * ez > rest_m[i] * rest_m[i] * 1.0001 and length[i] >= 1e-7:
                    slack[i] = False
                    changed = True
                continue
            tx, tz = tangent[0, i], tangent[1, i]
            pull_n = tau[0, i] + tau[1, i] * ux + tau[2, i] * uz
            across = stiffness[i] * (tz * ux - tx * uz)
            rx = -pull_n * tx + across * tz
            rz = -pull_n * tz - across * tx
            dx[i] = free[0, i] + inverse[0, i] * rx + inverse[1, i] * rz
            dz[i] = free[1, i] + inverse[1, i] * rx + inverse[2, i] * rz
            if pull_n < -1e-9 and passes < PASSES:
                slack[i] = True
                changed = True
            tension[i] = max(pull_n, 0.0)


@compiled
def learn_speeds(first: int, step_s: float, state: State) -> None:
    """Take speeds through the water from the last displacements.

    Averaging old and new is Heron's rule for the square root that quadratic drag asks for: it converges where the
    plain iteration would swing for ever.
    """
    dx, dz, tangent, carried, speed = state.dx, state.dz, state.tangent, state.carried, state.speed
    for i in range(first + 1, dx.shape[0]):
        mx, mz = 0.5 * (dx[i] + dx[i - 1]) / step_s, 0.5 * (dz[i] + dz[i - 1]) / step_s
        vx, vz = dx[i] / step_s - carried[0, i], dz[i] / step_s
        mx -= carried[1, i]
        tx, tz = tangent[0, i], tangent[1, i]
        speed[0, i] = max(0.5 * (speed[0, i] + abs(mx * tz - mz * tx)), SLOWEST_MPS)
        speed[1, i] = max(0.5 * (speed[1, i] + abs(mx * tx + mz * tz)), SLOWEST_MPS)
        speed[2, i] = max(0.5 * (speed[2, i] + math.sqrt(vx * vx + vz * vz)), SLOWEST_MPS)


@compiled
def stretch_of(first: int, chain: Chain, state: State) -> float:
    """Return the largest share by which a taut segment would be too long after this step."""
    x, z, rest_m = chain.x, chain.z, chain.rest_m
    dx, dz, slack = state.dx, state.dz, state.slack
    worst = 0.0
    for i in range(first + 1, x.shape[0]):
        if not slack[i]:
            ex = x[i] + dx[i] - x[i - 1] - dx[i - 1]
            ez = z[i] + dz[i] - z[i - 1] - dz[i - 1]
            worst = max(worst, math.sqrt(ex * ex + ez * ez) / rest_m[i] - 1.0)
    return worst


@compiled
def move(first: int, chain: Chain, around: Around, state: State) -> float:
    """Take the step, within the water; return the largest stretch left, which is at most about `CAP_STRETCH`."""
    x, z, rest_m = chain.x, chain.z, chain.rest_m
    bottom_x, bottom_z = around.bottom_x, around.bottom_z
    worst = 0.0
    for i in range(first, x.shape[0]):
        x[i] += state.dx[i]
        z[i] += state.dz[i]
        if i == first:
            continue
        z[i] = min(max(z[i], 0.0), interpolate(x[i], bottom_x, bottom_z))
        ex, ez = x[i] - x[i - 1], z[i] - z[i - 1]
        size = math.sqrt(ex * ex + ez * ez)
        longest = rest_m[i] * (1.0 + CAP_STRETCH)
        if size > longest:
            x[i] = x[i - 1] + ex * longest / size
            z[i] = min(z[i - 1] + ez * longest / size, interpolate(x[i], bottom_x, bottom_z))
            size = longest
        worst = max(worst, size / rest_m[i] - 1.0)
    return worst
