"""The search against itself, worked out a second way: in arrays, over days of casts with luck."""

from __future__ import annotations

import random
import unittest

import numpy as np

from stillthread.search.belief import Event, SearchBelief
from stillthread.search.likes import Answer, FlyAbout, Likes
from stillthread.search.policy import next_move
from stillthread.search.presentation import Costs, Exposed, Presentation
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
        about: dict[str, FlyAbout] = {}
        had = changed = moved = 0
        for seed in range(6):
            rng = random.Random(seed)
            a, b = SearchBelief(grid), quick_search.Belief(grid)
            diary, answers = quick_search.Diary(quick), list[Answer]()
            now: int | None = None
            at_min = 0.0
            for casts in range(40):
                going, liked = diary.going(at_min, 240.0 - at_min, b), diary.liked()
                likes = Likes(answers, casts)
                told = next_move(
                    a, slow, slow[now] if now is not None else None, costs=costs, going=going,
                    liked=lambda one, likes=likes: likes.of(one.one, about),  # type: ignore[misc]
                )  # fmt: skip
                again = quick_search.next_move(b, quick, now, going, liked)
                for i, one in enumerate(slow):
                    self.assertAlmostEqual(liked[i], likes.of(one.one, about), delta=1e-9)
                self.assertEqual((again.change, again.elsewhere), (told.change, told.elsewhere))
                best = next(i for i, one in enumerate(ways) if one.key == told.best.key)
                self.assertAlmostEqual(again.value[again.best if told.change else best], told.best.value, delta=1e-9)
                changed += told.change and now is not None
                moved += told.elsewhere
                if told.change or now is None:
                    now = best
                events = [
                    Event(
                        rng.uniform(0.3, 5.0), rng.random() < 0.5, rng.choice([rng.randrange(len(ways[now].flies)), None]), sd
                    )
                    for sd in ([rng.uniform(0.2, 0.8)] if rng.random() < 0.2 else [])
                ]
                minutes = ways[now].minutes
                a.wait(minutes)
                a.cast(slow[now], events)
                b.wait(minutes)
                b.learn(quick.likely(now, events))
                diary.cast(now, at_min, events)
                answers += answered(ways[now], events, casts)
                had += bool(events)
                at_min += minutes
                if rng.random() < 0.05:
                    a.elsewhere()
                    b.elsewhere()
                    diary.elsewhere(at_min)
            np.testing.assert_allclose(b.joint().reshape(grid.classes + 1, -1), np.array(a.joint()), atol=1e-12)
        self.assertGreater(had, 30)
        self.assertGreater(changed, 10)


def answered(one: Presentation, events: list[Event], casts: int) -> list[Answer]:
    """Return what a cast says of flies, as `stillthread.search.day.Day` keeps it."""
    found = []
    for event in events:
        seats = range(len(one.flies)) if event.fly is None else [event.fly]
        for i in seats:
            fly, share = one.flies[i], 1.0 / len(seats)
            hit, miss = (share, 0.0) if event.took else (0.0, 0.6 * share)
            found.append(Answer(fly.name, FlyAbout(fly_class=fly.fly_class), one.pace_mps, hit, miss, casts))
    return found
