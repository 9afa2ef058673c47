"""The beam over a team's seats against every team that there is."""

from __future__ import annotations

import itertools
import unittest

import numpy as np

from stillthread.plan.seeking.beam import seat_teams

SECOND = 0.2
LEFT = np.array([[1.0, 0.8, 0.6, 0.4], [0.95, 0.76, 0.57, 0.38], [0.9, 0.72, 0.54, 0.36]])


class BeamTests(unittest.TestCase):
    """Three seats, five candidates each, some of whom may sit on more than one; numbers at random."""

    def setUp(self) -> None:
        random = np.random.default_rng(7)
        self.seen = random.random((3, 2, 9))
        self.weight = random.random((3, 5, 4))
        self.index = random.integers(0, 2, (3, 5, 4))
        self.lure = random.integers(0, 2, (3, 5))
        self.who = np.array([[0, 1, 2, 3, -1], [2, 3, 4, 5, 6], [0, 2, 6, 7, -1]])
        self.q = random.random((4, 9))

    def teams(self, width: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        return seat_teams(self.seen, self.weight, self.index, self.lure, self.who, LEFT, self.q, SECOND, width)

    def worth(self, team: tuple[int, ...]) -> float:
        """Return what a team is worth, by its definition."""
        offered = np.array([self.seen[s][self.index[s, i]] * self.weight[s, i][:, None] for s, i in enumerate(team)])
        best = offered.max(axis=0)
        together = best + SECOND * (offered.sum(axis=0) - best)
        lures = sum(int(self.lure[s, i]) for s, i in enumerate(team))
        return float((together * self.q).sum() * LEFT[len(team) - 1, lures])

    def every_team(self) -> list[tuple[int, ...]]:
        def may(team: tuple[int, ...]) -> bool:
            who = [int(self.who[s, i]) for s, i in enumerate(team)]
            return min(who) >= 0 and len(set(who)) == len(who)

        return [team for team in itertools.product(range(5), repeat=3) if may(team)]

    def test_a_beam_as_wide_as_all_teams_finds_them_all_in_order(self) -> None:
        seats, lures, worth = self.teams(width=200)
        every = sorted(self.every_team(), key=lambda team: -self.worth(team))
        self.assertEqual([tuple(map(int, team)) for team in seats], every)
        np.testing.assert_allclose(worth, [self.worth(team) for team in every], rtol=1e-12)
        self.assertEqual([int(n) for n in lures], [sum(int(self.lure[s, i]) for s, i in enumerate(t)) for t in every])

    def test_a_narrow_beam_tells_the_true_worth_of_what_it_finds(self) -> None:
        seats, _, worth = self.teams(width=3)
        self.assertEqual(len(seats), 3)
        for team, told in zip(seats, worth, strict=True):
            self.assertAlmostEqual(self.worth(tuple(team)), told, places=12)
        best = max(map(self.worth, self.every_team()))
        self.assertGreater(worth[0], 0.9 * best)

    def test_a_seat_that_nobody_may_take_leaves_no_team(self) -> None:
        self.who[1] = -1
        self.assertEqual(len(self.teams(width=3)[0]), 0)
        self.who[:] = -1
        self.who[:, 0] = 4
        self.assertEqual(len(self.teams(width=3)[0]), 0, "one fly cannot sit twice")
