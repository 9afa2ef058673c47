"""The search against itself, worked out a second way: in arrays, over days of casts with luck."""

from __future__ import annotations

import random
import unittest

import numpy as np

from stillthread.search.belief import Event, SearchBelief
from stillthread.search.policy import next_move
from stillthread.search.presentation import Costs, Exposed
from tests import quick_search, searching


class TwoWays(unittest.TestCase):
    def test_they_agree_on_belief_and_move_through_days_of_takes_knocks_and_nothing(self) -> None:
        ways = [
            *(searching.hung(depth, k) for depth in (1.0, 2.5, 4.0) for k in (1, 3)),
            *(searching.hung(depth, 1, 3, minutes=4.2) for depth in (1.5, 3.0, 4.5)),
            *(searching.sunk(count, fly_class=k) for count in (5.0, 30.0, 60.0) for k in (2, 4)),
        ]
        grid = searching.grid(wanted=(1, 2, 1, 1))
        costs = Costs()
        slow = [Exposed(one, grid) for one in ways]
        quick = quick_search.Options(ways, grid, costs)
        looked = changed = 0
        for seed in range(6):
            rng = random.Random(seed)
            a, b = SearchBelief(grid), quick_search.Belief(grid)
            now: int | None = None
            at_min, since = 0.0, None
            for _ in range(25):
                told = next_move(
                    a, slow, slow[now] if now is not None else None, costs=costs, left_min=240.0 - at_min,
                    since_event_min=since, here_min=at_min,
                )  # fmt: skip
                again = quick_search.next_move(b, quick, now, left_min=240.0 - at_min, since_event_min=since, here_min=at_min)
                self.assertAlmostEqual(again.value.max(), told.best.value, delta=1e-9)
                self.assertEqual((again.change, again.elsewhere), (told.change, told.elsewhere))
                looked += since is not None
                changed += told.change
                if told.change or now is None:
                    now = next(i for i, one in enumerate(ways) if one.key == told.best.key)
                events = [
                    Event(rng.uniform(0.3, 5.0), rng.random() < 0.5, rng.randrange(len(ways[now].flies)))
                    for _ in range(rng.random() < 0.2)
                ]
                minutes = ways[now].minutes
                a.wait(minutes)
                a.cast(slow[now], events)
                b.wait(minutes)
                b.learn(quick.likely(now, [(e.depth_m, e.took, e.fly) for e in events]))
                since = 0.0 if events else since + minutes if since is not None else None
                at_min += minutes
                if rng.random() < 0.05:
                    a.elsewhere()
                    b.elsewhere()
            np.testing.assert_allclose(b.joint().reshape(grid.classes + 1, -1), np.array(a.joint()), atol=1e-12)
        self.assertGreater(looked, 30)
        self.assertGreater(changed, 10)
