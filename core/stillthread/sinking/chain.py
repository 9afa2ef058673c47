"""The sinking thread: an inextensible, overdamped chain, in the vertical plane of the cast or in space, compiled.

Along the chain `i` counts nodes from the rod tip; segment `i` joins node `i - 1` to node `i`. Arrays are
(n_node,) unless said otherwise; entry 0 of a segment array is unused. x runs away from the rod [m], y
across the cast, z downward [m] with 0 at the surface.

Inertia is left out: a line reaches its terminal speed within hundredths of a second. Each step solves, for the
displacement d of every node and the tension T of every segment at once,

    drag(d / dt - water) = weight + tension(d),   |segment| = rest length,

with drag linearised about the last speeds and the tension's direction taken to first order in d (a linearly
implicit step), so that thin tippets and heavy flies stay stable at steps of a tenth of a second and more. The
system is block tridiagonal; it is condensed from the fly to the rod and solved on the way back, in one pass each.
A thread does not push: a segment whose tension would be negative is slack, and is decided again within the step.
Steps lengthen while the chain only creeps and shorten while it whips about; one that stretches a segment too far
is taken back.
"""

from __future__ import annotations

import math

import numpy as np

from stillthread.drag.compiled import compiled
from stillthread.errors import FloatArray
from stillthread.sinking import space
from stillthread.sinking.groups import Afloat, Around, Chain, Cut, State, Tip
from stillthread.sinking.step import assemble, interpolate, learn_speeds, move, solve, stretch_of

# After a change of pull the drag is found anew by this many rounds; else the last step's speeds serve.
_ROUNDS_AFTER_CHANGE = 3  # ours: numerics
_STEPS_AFTER_CHANGE = 1
# Steps aim at a stretch of a taut segment, and are taken back above so many times that.
_MOST_STRETCH = 1.75  # ours: numerics
_SHORTEST_STEP_S = 0.004  # ours: numerics
_FIRST_STEP_S = 0.15  # ours: numerics
_SHORTEST_OUT_M = 0.3  # ours: numerics
_ON_BOTTOM_M = 0.02  # ours: nearer it lies
_DRAGGED_FOR_S = 5.0  # ours: a fly that is dragged for so long is dragged

# Columns of `program`: what the rod does, piece after piece.
FOR_S, PULL_MPS, TIP_X_MPS, TIP_Y_MPS, TIP_Z_MPS, MENDS, PHASE = range(7)  # by definition: columns
# What is being done, as recorded in `phase`.
COUNTING, RETRIEVING, LIFTING, HANGING = range(4)  # by definition
# Columns of `contact_s`.
IN_WEED, ON_BOTTOM = range(2)
# Columns of `at_rod`.
TENSION, OUT = range(2)


@compiled
def run_chain(
    chain: Chain,
    flies: np.ndarray,
    first: int,
    around: Around,
    afloat: Afloat,
    program: FloatArray,
    cut: Cut,
    spatial: bool,
) -> tuple[FloatArray, np.ndarray, FloatArray, FloatArray, FloatArray, FloatArray, float, float]:
    """Run one presentation and return what happened.

    The chain is used up. `flies` are the nodes to report, shape (n_fly,). Node `first` is at the rod tip; those before it are
    on the reel, ready to be fed out.

    `program` (n_piece, 7) says what the rod does: for so many seconds, take in line at a speed [m/s, negative feeds
    out], move the tip along x, y and z [m/s], begin with a mend or not (1 or 0), and call it a phase.
    A float at the tip (node 0) goes along x as wind, top water and chain let it, where no piece moves it; one further out
    is a body of the chain that the wind pushes, and then it is run in space.
    `spatial` whether y counts: something moves across.

    Returns time_s (n_time,), phase (n_time,), path (n_time, n_node, 3) as x, z, y, at_rod (n_time, 2) the pull
    there [N] and how much thread is out [m], layer_s (n_fly, n_layer) seconds in each layer, contact_s (n_fly, 2) seconds
    within the weed and on the bottom, the largest stretch of a segment as a share of its length, and when the fly began to be
    dragged [s], -1 if it never was.
    """
    x, y, z, rest_m = chain.x, chain.y, chain.z, chain.rest_m
    bottom_x, bottom_z, weed_m = around.bottom_x, around.bottom_z, around.weed_m
    sample_s, layer_m, n_layer = cut.sample_s, cut.layer_m, cut.n_layer
    n = x.shape[0]
    total_s = program[:, FOR_S].sum()
    most = int(total_s / sample_s) + 4
    time_s = np.zeros(most)
    phase_at = np.zeros(most, dtype=np.int64)
    at_rod = np.zeros((most, 2))
    path = np.zeros((most, n, 3))
    layer_s = np.zeros((flies.shape[0], n_layer))
    contact_s = np.zeros((flies.shape[0], 2))

    tension, slack, speed = np.zeros(n), np.zeros(n, dtype=np.bool_), np.full((3, n), 0.02)
    speed[2] = 0.05
    dx, dy, dz = np.zeros(n), np.zeros(n), np.zeros(n)
    state = State(
        tension, slack, speed, np.zeros(n), np.zeros((3, n)), np.zeros((6, n)), np.zeros((3, n)), np.zeros((4, n)),
        np.zeros((6, n)), np.zeros((3, n)), np.zeros((4, n)), np.zeros(n), dx, dy, dz,
    )  # fmt: skip

    nominal = rest_m[1:].max()
    out = rest_m[first + 1 :].sum()
    now = 0.0
    samples = 0
    next_sample = 0.0
    worst = 0.0
    calm_s = 2.0 * _SHORTEST_STEP_S
    tip_speed = 0.02
    mended_to = afloat.node if afloat.node > 0 else int(flies.min())
    dragging_s, dragged_at = 0.0, -1.0

    phase = COUNTING
    for piece in range(program.shape[0]):
        if cut.stops and dragged_at >= 0.0:
            break
        phase = int(program[piece, PHASE])
        left_s = program[piece, FOR_S]
        changed = piece == 0 or program[piece, PULL_MPS] != program[piece - 1, PULL_MPS]
        if program[piece, MENDS] > 0.0:
            space.mend(first, mended_to, chain)
            changed = True
        unsettled = _STEPS_AFTER_CHANGE if changed else 0
        if changed:
            calm_s = min(calm_s, _FIRST_STEP_S)
        while left_s > 1e-9 and not (cut.stops and dragged_at >= 0.0):
            if now >= next_sample - 1e-9 and samples < most - 1:
                time_s[samples] = now
                phase_at[samples] = phase
                at_rod[samples, TENSION], at_rod[samples, OUT] = tension[first + 1], out
                for i in range(n):
                    j = max(i, first)
                    path[samples, i, 0] = x[j]
                    path[samples, i, 1] = z[j]
                    path[samples, i, 2] = y[j]
                samples += 1
                next_sample += sample_s
            step = min(calm_s, cut.longest_step_s, left_s)
            if program[piece, PULL_MPS] > 0.0:
                step = min(step, max(0.6 * rest_m[first + 1] / program[piece, PULL_MPS], _SHORTEST_STEP_S))
            whole_m = rest_m[first + 1]
            stretch = 0.0
            while True:
                taken = min(program[piece, PULL_MPS] * step, max(out - _SHORTEST_OUT_M, 0.0))
                rest_m[first + 1] = max(whole_m - taken, 0.1 * whole_m)
                taken = whole_m - rest_m[first + 1]
                tip_x = program[piece, TIP_X_MPS]
                drifts = afloat.node == 0 and tip_x == 0.0
                for _ in range(_ROUNDS_AFTER_CHANGE if unsettled > 0 else 1):
                    tip_drag = tip_force = 0.0
                    if drifts:
                        tip_drag = 0.5 * around.density * afloat.drag_m2 * tip_speed / step
                        tip_force = tip_drag * around.drift_mps * step + afloat.push_x_n
                    tip_y, tip_z = program[piece, TIP_Y_MPS], program[piece, TIP_Z_MPS]
                    tip = Tip(tip_x * step, tip_y * step, tip_z * step, tip_drag, tip_force)
                    if spatial:
                        space.assemble(first, step, chain, around, afloat, state)
                        space.solve(first, tip, chain, state)
                        space.learn_speeds(first, step, state)
                        continue
                    assemble(first, step, chain, around, state)
                    solve(first, tip, chain, state)
                    past = abs(dx[first] / step - around.drift_mps)
                    tip_speed = max(0.5 * (tip_speed + past), 1e-3)
                    learn_speeds(first, step, state)
                stretch = space.stretch_of(first, chain, state) if spatial else stretch_of(first, chain, state)
                if stretch <= _MOST_STRETCH * cut.aim_stretch or step <= _SHORTEST_STEP_S:
                    break
                step = max(step * min(0.7, math.sqrt(cut.aim_stretch / stretch)), _SHORTEST_STEP_S)
            out -= taken
            unsettled -= 1
            calm_s = step * min(1.5, math.sqrt(cut.aim_stretch / (stretch + 1e-9)))
            calm_s = min(max(calm_s, _SHORTEST_STEP_S), cut.longest_step_s)
            for k in range(flies.shape[0]):
                j = max(flies[k], first)
                # The step's seconds go to every layer that the fly passes through.
                parts = int(abs(dz[j]) / layer_m) + 1
                for p in range(parts):
                    at = min(max(z[j] + dz[j] * (p + 0.5) / parts, 0.0), (n_layer - 0.5) * layer_m)
                    layer_s[k, int(at / layer_m)] += step / parts
                above = interpolate(x[j], bottom_x, bottom_z) - z[j]
                if above <= _ON_BOTTOM_M:
                    contact_s[k, ON_BOTTOM] += step
                if above <= max(weed_m, _ON_BOTTOM_M):
                    contact_s[k, IN_WEED] += step
            if spatial and cut.drag_mps > 0.0 and dragged_at < 0.0 and phase <= RETRIEVING:
                if space.drag_mps(first, step, afloat, flies[0], chain, state) >= cut.drag_mps:
                    dragging_s += step
                else:
                    dragging_s = max(dragging_s - step, 0.0)
                if dragging_s >= _DRAGGED_FOR_S:
                    dragged_at = max(now + step - dragging_s, 0.0)
            left_m = space.move(first, chain, around, state) if spatial else move(first, chain, around, state)
            worst = max(worst, left_m)
            now += step
            left_s -= step
            # Line taken in or fed out past a node hands the tip to the next one.
            while first < n - 2 and rest_m[first + 1] < 0.15 * min(rest_m[first + 2], nominal):
                at_x, at_y, at_z, rest = x[first], y[first], z[first], rest_m[first + 1]
                first += 1
                rest_m[first + 1] += rest
                x[first], y[first], z[first] = at_x, at_y, at_z
                tension[first + 1] = min(tension[first + 1], tension[first])
            while first > 0 and rest_m[first + 1] > 1.5 * nominal:
                first -= 1
                x[first], y[first], z[first] = x[first + 1], y[first + 1], z[first + 1]
                share = nominal / rest_m[first + 2]
                x[first + 1] += share * (x[first + 2] - x[first + 1])
                y[first + 1] += share * (y[first + 2] - y[first + 1])
                z[first + 1] += share * (z[first + 2] - z[first + 1])
                rest_m[first + 1] = nominal
                rest_m[first + 2] -= nominal
                tension[first + 1] = tension[first + 2]
                slack[first + 1] = slack[first + 2]
                for k in range(3):
                    speed[k, first + 1] = speed[k, first + 2]
    time_s[samples] = now
    phase_at[samples] = phase
    at_rod[samples, TENSION], at_rod[samples, OUT] = tension[first + 1], out
    for i in range(n):
        j = max(i, first)
        path[samples, i, 0] = x[j]
        path[samples, i, 1] = z[j]
        path[samples, i, 2] = y[j]
    samples += 1
    return time_s[:samples], phase_at[:samples], path[:samples], at_rod[:samples], layer_s, contact_s, worst, dragged_at
