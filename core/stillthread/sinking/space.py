"""One step of the chain in three dimensions, compiled: what `step` does in a plane, for water that also moves across the cast.

y runs across the cast [m], positive to where a wind from the left drives. Symmetric 3 x 3 blocks are kept as (xx, xy, xz, yy,
yz, zz). For a taut segment with tangent t and stiffness k against turning, P = I - t t', C the inverse of the outer node's
block and c = C t, the pull that reaches the inner node is g - S d with

    v = (k P c - t) / (t . c),  T = tau0 + v . d,  S = (t . c) v v' + k P - k^2 P C P,  g = -tau0 (t . c) v + k P h.
"""

from __future__ import annotations

import math

from stillthread.drag.compiled import compiled
from stillthread.drag.laws import cylinder_cd_re, sphere_cd
from stillthread.sinking.groups import Afloat, Around, Chain, State, Tip
from stillthread.sinking.step import (
    AXIAL_VISCOUS,
    BOTTOM_FRICTION,
    BOTTOM_GIVE_M,
    CAP_STRETCH,
    GROUND_NPM,
    PASSES,
    SLOWEST_MPS,
    buoyancy,
    drift_share,
    interpolate,
)

# A float takes the wind while its top is out.
_AWASH_M = 0.02  # ours: numerics
# Deeper than this a line is no longer lifted off the water by a mend.
_MENDED_M = 0.06  # ours


@compiled
def assemble(first: int, step_s: float, chain: Chain, around: Around, afloat: Afloat, state: State) -> None:
    """Write lengths, tangents, drag per displacement and forces at these positions, and how fast the water goes there."""
    x, y, z, rest_m, weight_npm, diameter_m = chain.x, chain.y, chain.z, chain.rest_m, chain.weight_npm, chain.diameter_m
    skin, point_weight_n, point_diameter_m = chain.skin, chain.point_weight_n, chain.point_diameter_m
    speed, length, tangent, slack = state.speed, state.length, state.tangent, state.slack
    drag, force, carried = state.drag, state.force, state.carried
    rho, mu = around.density, around.viscosity
    n = x.shape[0]
    for i in range(first, n):
        for k in range(6):
            drag[k, i] = 0.0
        for k in range(3):
            force[k, i] = 0.0
        share = drift_share(z[i], around)
        carried[0, i], carried[1, i] = around.drift_mps * share, around.cross_mps * share
        share = drift_share(0.5 * (z[i] + z[max(i, 1) - 1]), around)
        carried[2, i], carried[3, i] = around.drift_mps * share, around.cross_mps * share
    for i in range(first + 1, n):
        ex, ey, ez = x[i] - x[i - 1], y[i] - y[i - 1], z[i] - z[i - 1]
        size = math.sqrt(ex * ex + ey * ey + ez * ez)
        length[i] = size
        if size < 1e-7:
            ex, ey, ez = 0.0, 0.0, 1.0
            slack[i] = True
        else:
            ex, ey, ez = ex / size, ey / size, ez / size
        tangent[0, i], tangent[1, i], tangent[2, i] = ex, ey, ez
        d = diameter_m[i]
        half = 0.5 * rest_m[i]
        cn = half * 0.5 * mu * cylinder_cd_re(rho * speed[0, i] * d / mu) / step_s
        ct = half * (0.5 * rho * skin[i] * math.pi * d * speed[1, i] + AXIAL_VISCOUS * mu) / step_s
        more = ct - cn
        bxx, bxy, bxz = cn + more * ex * ex, more * ex * ey, more * ex * ez
        byy, byz, bzz = cn + more * ey * ey, more * ey * ez, cn + more * ez * ez
        for j in (i - 1, i):
            drag[0, j] += bxx
            drag[1, j] += bxy
            drag[2, j] += bxz
            drag[3, j] += byy
            drag[4, j] += byz
            drag[5, j] += bzz
            wx, wy = carried[0, j] * step_s, carried[1, j] * step_s
            force[0, j] += bxx * wx + bxy * wy
            force[1, j] += bxy * wx + byy * wy
            force[2, j] += bxz * wx + byz * wy
            pull, stiff = buoyancy(weight_npm[i] * half, z[j])
            force[2, j] += pull
            drag[5, j] += stiff
    for i in range(first + 1, n):
        d = point_diameter_m[i]
        if d > 0.0:
            v = speed[2, i]
            c = 0.125 * math.pi * d * d * rho * sphere_cd(rho * v * d / mu) * v / step_s
            drag[0, i] += c
            drag[3, i] += c
            drag[5, i] += c
            force[0, i] += c * carried[0, i] * step_s
            force[1, i] += c * carried[1, i] * step_s
        pull, stiff = buoyancy(point_weight_n[i], z[i])
        force[2, i] += pull
        drag[5, i] += stiff
        if i == afloat.node and z[i] < _AWASH_M:
            force[0, i] += afloat.push_x_n
            force[1, i] += afloat.push_y_n
        if z[i] < 0.0:
            force[2, i] -= GROUND_NPM * z[i]
            drag[5, i] += GROUND_NPM
        deep = z[i] - interpolate(x[i], around.bottom_x, around.bottom_z)
        if deep >= -BOTTOM_GIVE_M:
            stiff = max(GROUND_NPM, max(force[2, i], 0.0) / BOTTOM_GIVE_M)
            push = stiff * max(deep + BOTTOM_GIVE_M, 0.0)
            force[2, i] -= push
            drag[5, i] += stiff
            went = math.sqrt(state.dx[i] * state.dx[i] + state.dy[i] * state.dy[i])
            rubs = BOTTOM_FRICTION * push / (went + 0.002 * step_s)
            drag[0, i] += rubs
            drag[3, i] += rubs


@compiled
def solve(first: int, tip: Tip, chain: Chain, state: State) -> None:
    """Solve for displacements and tension; a segment that would have to push is slack, and is decided again."""
    x, y, z, rest_m = chain.x, chain.y, chain.z, chain.rest_m
    length, tangent, drag, force = state.length, state.tangent, state.drag, state.force
    tension, slack, inverse, free = state.tension, state.slack, state.inverse, state.free
    tau, stiffness = state.tau, state.stiffness
    dx, dy, dz = state.dx, state.dy, state.dz
    n = x.shape[0]
    changed = True
    passes = 0
    while changed and passes < PASSES:
        passes += 1
        # Condense from the fly to the rod: the pull of all that hangs outward of node i, as g - S d.
        sxx = sxy = sxz = syy = syz = szz = gx = gy = gz = 0.0
        for i in range(n - 1, first, -1):
            tx, ty, tz = tangent[0, i], tangent[1, i], tangent[2, i]
            k = 0.0 if slack[i] else max(tension[i], 0.0) / rest_m[i]
            stiffness[i] = k
            axx = drag[0, i] + sxx + k * (1.0 - tx * tx)
            axy = drag[1, i] + sxy - k * tx * ty
            axz = drag[2, i] + sxz - k * tx * tz
            ayy = drag[3, i] + syy + k * (1.0 - ty * ty)
            ayz = drag[4, i] + syz - k * ty * tz
            azz = drag[5, i] + szz + k * (1.0 - tz * tz)
            cxx, cxy, cxz = ayy * azz - ayz * ayz, axz * ayz - axy * azz, axy * ayz - axz * ayy
            det = 1.0 / (axx * cxx + axy * cxy + axz * cxz)
            cxx, cxy, cxz = cxx * det, cxy * det, cxz * det
            cyy, cyz = (axx * azz - axz * axz) * det, (axy * axz - axx * ayz) * det
            czz = (axx * ayy - axy * axy) * det
            inverse[0, i], inverse[1, i], inverse[2, i] = cxx, cxy, cxz
            inverse[3, i], inverse[4, i], inverse[5, i] = cyy, cyz, czz
            rx, ry, rz = force[0, i] + gx, force[1, i] + gy, force[2, i] + gz
            hx, hy, hz = cxx * rx + cxy * ry + cxz * rz, cxy * rx + cyy * ry + cyz * rz, cxz * rx + cyz * ry + czz * rz
            free[0, i], free[1, i], free[2, i] = hx, hy, hz
            if slack[i]:
                sxx = sxy = sxz = syy = syz = szz = gx = gy = gz = 0.0
                continue
            ux, uy, uz = cxx * tx + cxy * ty + cxz * tz, cxy * tx + cyy * ty + cyz * tz, cxz * tx + cyz * ty + czz * tz
            s = tx * ux + ty * uy + tz * uz
            th = tx * hx + ty * hy + tz * hz
            give = 1.0 / s
            vx, vy, vz = (k * (ux - tx * s) - tx) * give, (k * (uy - ty * s) - ty) * give, (k * (uz - tz * s) - tz) * give
            t0 = (th - rest_m[i] + length[i]) * give
            tau[0, i], tau[1, i], tau[2, i], tau[3, i] = t0, vx, vy, vz
            gx = -t0 * s * vx + k * (hx - tx * th)
            gy = -t0 * s * vy + k * (hy - ty * th)
            gz = -t0 * s * vz + k * (hz - tz * th)
            # P C P = C - t c' - c t' + s t t'
            kk = k * k
            sxx = s * vx * vx + k * (1.0 - tx * tx) - kk * (cxx - 2.0 * tx * ux + s * tx * tx)
            syy = s * vy * vy + k * (1.0 - ty * ty) - kk * (cyy - 2.0 * ty * uy + s * ty * ty)
            szz = s * vz * vz + k * (1.0 - tz * tz) - kk * (czz - 2.0 * tz * uz + s * tz * tz)
            sxy = s * vx * vy - k * tx * ty - kk * (cxy - tx * uy - ux * ty + s * tx * ty)
            sxz = s * vx * vz - k * tx * tz - kk * (cxz - tx * uz - ux * tz + s * tx * tz)
            syz = s * vy * vz - k * ty * tz - kk * (cyz - ty * uz - uy * tz + s * ty * tz)
        dx[first], dy[first], dz[first] = tip.dx, tip.dy, tip.dz
        changed = False
        for i in range(first + 1, n):
            ux, uy, uz = dx[i - 1], dy[i - 1], dz[i - 1]
            if slack[i]:
                tension[i] = 0.0
                dx[i], dy[i], dz[i] = free[0, i], free[1, i], free[2, i]
                ex = x[i] + dx[i] - x[i - 1] - ux
                ey = y[i] + dy[i] - y[i - 1] - uy
                ez = z[i] + dz[i] - z[i - 1] - uz
                far = ex * ex + ey * ey + ez * ez > rest_m[i] * rest_m[i] * 1.0001
                if passes < PASSES and far and length[i] >= 1e-7:
                    slack[i] = False
                    changed = True
                continue
            tx, ty, tz = tangent[0, i], tangent[1, i], tangent[2, i]
            pull_n = tau[0, i] + tau[1, i] * ux + tau[2, i] * uy + tau[3, i] * uz
            k = stiffness[i]
            # d = h + C (k P u - T t)
            along = k * (tx * ux + ty * uy + tz * uz) + pull_n
            rx, ry, rz = k * ux - along * tx, k * uy - along * ty, k * uz - along * tz
            dx[i] = free[0, i] + inverse[0, i] * rx + inverse[1, i] * ry + inverse[2, i] * rz
            dy[i] = free[1, i] + inverse[1, i] * rx + inverse[3, i] * ry + inverse[4, i] * rz
            dz[i] = free[2, i] + inverse[2, i] * rx + inverse[4, i] * ry + inverse[5, i] * rz
            if pull_n < -1e-9 and passes < PASSES:
                slack[i] = True
                changed = True
            tension[i] = max(pull_n, 0.0)


@compiled
def learn_speeds(first: int, step_s: float, state: State) -> None:
    """Take speeds through the water from the last displacements, averaged as in a plane."""
    dx, dy, dz, tangent, carried, speed = state.dx, state.dy, state.dz, state.tangent, state.carried, state.speed
    for i in range(first + 1, dx.shape[0]):
        mx = 0.5 * (dx[i] + dx[i - 1]) / step_s - carried[2, i]
        my = 0.5 * (dy[i] + dy[i - 1]) / step_s - carried[3, i]
        mz = 0.5 * (dz[i] + dz[i - 1]) / step_s
        vx, vy, vz = dx[i] / step_s - carried[0, i], dy[i] / step_s - carried[1, i], dz[i] / step_s
        along = mx * tangent[0, i] + my * tangent[1, i] + mz * tangent[2, i]
        across = math.sqrt(max(mx * mx + my * my + mz * mz - along * along, 0.0))
        speed[0, i] = max(0.5 * (speed[0, i] + across), SLOWEST_MPS)
        speed[1, i] = max(0.5 * (speed[1, i] + abs(along)), SLOWEST_MPS)
        speed[2, i] = max(0.5 * (speed[2, i] + math.sqrt(vx * vx + vy * vy + vz * vz)), SLOWEST_MPS)


@compiled
def stretch_of(first: int, chain: Chain, state: State) -> float:
    """Return the largest share by which a taut segment would be too long after this step."""
    x, y, z, rest_m = chain.x, chain.y, chain.z, chain.rest_m
    dx, dy, dz, slack = state.dx, state.dy, state.dz, state.slack
    worst = 0.0
    for i in range(first + 1, x.shape[0]):
        if not slack[i]:
            ex = x[i] + dx[i] - x[i - 1] - dx[i - 1]
            ey = y[i] + dy[i] - y[i - 1] - dy[i - 1]
            ez = z[i] + dz[i] - z[i - 1] - dz[i - 1]
            worst = max(worst, math.sqrt(ex * ex + ey * ey + ez * ez) / rest_m[i] - 1.0)
    return worst


@compiled
def move(first: int, chain: Chain, around: Around, state: State) -> float:
    """Take the step, within the water; return the largest stretch left, which is at most about `CAP_STRETCH`."""
    x, y, z, rest_m = chain.x, chain.y, chain.z, chain.rest_m
    bottom_x, bottom_z = around.bottom_x, around.bottom_z
    worst = 0.0
    for i in range(first, x.shape[0]):
        x[i] += state.dx[i]
        y[i] += state.dy[i]
        z[i] += state.dz[i]
        if i == first:
            continue
        z[i] = min(max(z[i], 0.0), interpolate(x[i], bottom_x, bottom_z))
        ex, ey, ez = x[i] - x[i - 1], y[i] - y[i - 1], z[i] - z[i - 1]
        size = math.sqrt(ex * ex + ey * ey + ez * ez)
        longest = rest_m[i] * (1.0 + CAP_STRETCH)
        if size > longest:
            x[i] = x[i - 1] + ex * longest / size
            y[i] = y[i - 1] + ey * longest / size
            z[i] = min(z[i - 1] + ez * longest / size, interpolate(x[i], bottom_x, bottom_z))
            size = longest
        worst = max(worst, size / rest_m[i] - 1.0)
    return worst


@compiled
def drag_mps(first: int, step_s: float, afloat: Afloat, fly: int, chain: Chain, state: State) -> float:
    """Return how fast [m/s] the thread drags what fishes through the water: the fly sideways, seen from the rod, or a float
    toward the rod. What a retrieve does to a fly, and the wind to a float, is not drag."""
    i = max(afloat.node if afloat.node > 0 else fly, first)
    rx, ry = chain.x[first] - chain.x[i], chain.y[first] - chain.y[i]
    size = math.sqrt(rx * rx + ry * ry)
    if size < 1e-6:
        return 0.0
    vx, vy = state.dx[i] / step_s - state.carried[0, i], state.dy[i] / step_s - state.carried[1, i]
    if afloat.node > 0:
        return float((vx * rx + vy * ry) / size)
    return float(abs(vx * ry - vy * rx) / size)


@compiled
def mend(first: int, last: int, chain: Chain) -> None:
    """Throw the bow of the floating part over to the other side: its mirror image about the straight line from the rod tip
    to where it stops floating, or to node `last`. No segment changes its length, and nothing that fishes is moved."""
    x, y, z = chain.x, chain.y, chain.z
    end = first
    while end < last and z[end + 1] < _MENDED_M:
        end += 1
    cx, cy = x[end] - x[first], y[end] - y[first]
    size = math.sqrt(cx * cx + cy * cy)
    if end < first + 2 or size < 1e-6:
        return
    cx, cy = cx / size, cy / size
    for i in range(first + 1, end):
        px, py = x[i] - x[first], y[i] - y[first]
        off = cx * py - cy * px
        x[i] += 2.0 * off * cy
        y[i] -= 2.0 * off * cx
