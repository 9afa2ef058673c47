"""The best team on a path, by a beam over its seats: compiled, as a plan asks it of hundreds of paths."""

from __future__ import annotations

import numpy as np

from stillthread.drag.compiled import compiled
from stillthread.errors import FloatArray


@compiled
def seat_teams(
    seen: FloatArray,
    weight: FloatArray,
    reach_index: np.ndarray,
    lure: np.ndarray,
    who: np.ndarray,
    left: FloatArray,
    q: FloatArray,
    second_fly: float,
    width: int,
) -> tuple[np.ndarray, np.ndarray, FloatArray]:
    """Return the best teams, the best first: who sits where, how many are lures, and what each is worth.

    A team offers each fish the best of its flies and a little, `second_fly`, of the others. At every seat the `width` best
    half-built teams are kept. `seen` (n_seat, n_reach, n_fish) is how surely fish see a fly on each seat; `weight` and
    `reach_index` (n_seat, n_candidate, n_food) what each candidate is worth, `lure` whether it is one, and `who` (n_seat,
    n_candidate) which fly of the box it is, negative for none: nobody sits twice. `left` (n_seat, n_seat + 1) is what a
    team of so many, of which so many lures, keeps of its worth; `q` (n_food, n_fish) how many fish there are.

    Returns seats (n_team, n_seat) of indices among the candidates, lures (n_team,) and worth (n_team,); no teams where a
    seat cannot be filled.
    """
    n_seat, n_candidate, n_food = weight.shape
    n_fish = q.shape[1]
    n = 1
    seats = np.zeros((width, n_seat), dtype=np.int64)
    lures = np.zeros(width, dtype=np.int64)
    value = np.zeros(width)
    best = np.zeros((width, n_food, n_fish))
    total = np.zeros(width)
    offered = np.zeros((n_candidate, n_food, n_fish))
    alone = np.zeros(n_candidate)
    worth = np.zeros((width, n_candidate))
    for seat in range(n_seat):
        for i in range(n_candidate):
            alone[i] = 0.0
            for f in range(n_food):
                at, share = reach_index[seat, i, f], weight[seat, i, f]
                for z in range(n_fish):
                    offered[i, f, z] = seen[seat, at, z] * share
                    alone[i] += offered[i, f, z] * q[f, z]
        for k in range(n):
            for i in range(n_candidate):
                worth[k, i] = -1.0
                sits = who[seat, i] < 0
                for s in range(seat):
                    sits = sits or who[s, seats[k, s]] == who[seat, i]
                if sits:
                    continue
                together = 0.0
                for f in range(n_food):
                    for z in range(n_fish):
                        together += max(best[k, f, z], offered[i, f, z]) * q[f, z]
                if seat > 0:
                    together = (1.0 - second_fly) * together + second_fly * (total[k] + alone[i])
                worth[k, i] = together * left[seat, lures[k] + lure[seat, i]]
        next_seats, next_lures, next_value = np.zeros_like(seats), np.zeros_like(lures), np.zeros_like(value)
        next_best, next_total = np.zeros_like(best), np.zeros_like(total)
        kept = 0
        while kept < width:
            top_k, top_i = -1, -1
            for k in range(n):
                for i in range(n_candidate):
                    if worth[k, i] >= 0.0 and (top_k < 0 or worth[k, i] > worth[top_k, top_i]):
                        top_k, top_i = k, i
            if top_k < 0:
                break
            next_seats[kept] = seats[top_k]
            next_seats[kept, seat] = top_i
            next_lures[kept] = lures[top_k] + lure[seat, top_i]
            next_value[kept] = worth[top_k, top_i]
            next_best[kept] = np.maximum(best[top_k], offered[top_i])
            next_total[kept] = total[top_k] + alone[top_i]
            worth[top_k, top_i] = -1.0
            kept += 1
        seats, lures, value, best, total, n = next_seats, next_lures, next_value, next_best, next_total, kept
        if n == 0:
            break
    return seats[:n], lures[:n], value[:n]
