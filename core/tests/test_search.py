"""The belief on the water and the next move: against the definition, closed forms, and what an angler would say."""

from __future__ import annotations

import json
import math
import random
import subprocess
import sys
import unittest
from pathlib import Path
from typing import Any

from stillthread.search.belief import STRAY_KNOCKS, STRAY_TAKES, WEIGHTS, Event, SearchBelief
from stillthread.search.grid import ANY, RATE_TIMES, Grid, answers
from stillthread.search.policy import SETTLED_MIN, has_to_bring, takes_pmin
from stillthread.search.presentation import EVENT_SD_M, KNOCK, TAKE, Costs, Exposed, Presentation
from stillthread.search.thinker import Thinker, think
from tests.searching import grid, hung, sunk, table, told

_R = len(RATE_TIMES)


def marginal(belief: SearchBelief) -> list[float]:
    """Return the chance of each centre, whatever else."""
    joint, width = belief.joint(), _R * len(belief.grid.reaches_m)
    return [sum(row[c * width + i] for row in joint for i in range(width)) for c in range(len(belief.grid.centres_m))]


def mean_m(belief: SearchBelief) -> float:
    return sum(c * p for c, p in zip(belief.grid.centres_m, marginal(belief), strict=True))


def by_definition(of: Grid, casts: list[tuple[Presentation, list[Event]]]) -> list[list[float]]:
    """Return the belief worked out hypothesis by hypothesis in logarithms, the path step by step, without tables or fading."""
    logs = [[math.log(p) for p in row] for row in of.prior()]
    for one, events in casts:
        stray = of.rate_pmin * one.share * one.minutes / of.deepest_m
        spans = Exposed(one, of).spans
        for fly, row in enumerate(logs):
            wants = [fly == ANY or tied.fly_class == fly for tied in one.flies]
            for k, (c, u) in enumerate(of.cells):
                met = [0.0] * len(one.flies)
                near = [0.0] * len(events)
                for minutes, depths in spans:
                    reached = [answers(c, u, z) for z in depths]
                    if len(reached) == 2:
                        one_k, two_k = reached
                        if wants[0] == wants[1]:
                            reached = [one_k if one_k >= two_k else 0.0, two_k if two_k > one_k else 0.0]
                        else:
                            reached = [one_k, max(two_k - one_k, 0.0)] if wants[0] else [max(one_k - two_k, 0.0), two_k]
                    for i, share in enumerate(reached):
                        met[i] += minutes * share
                        for e, event in enumerate(events):
                            if event.fly in (None, i):
                                off = (event.depth_m - depths[i]) / EVENT_SD_M
                                bell = math.exp(-0.5 * off * off) / (EVENT_SD_M * math.sqrt(2.0 * math.pi))
                                near[e] += minutes * share * bell * (TAKE if event.took else KNOCK)[wants[i]]
                for r, rate in enumerate(of.rates_pmin):
                    row[k * _R + r] -= rate * sum((TAKE[w] + KNOCK[w]) * m for w, m in zip(wants, met, strict=True))
                    row[k * _R + r] += sum(
                        math.log(rate * n + stray * (STRAY_TAKES if event.took else STRAY_KNOCKS))
                        for n, event in zip(near, events, strict=True)
                    )
    top = max(map(max, logs))
    found = [[math.exp(x - top) for x in row] for row in logs]
    total = math.fsum(map(math.fsum, found))
    return [[p / total for p in row] for row in found]


class BeliefTests(unittest.TestCase):
    def test_after_a_hundred_casts_of_teams_it_is_that_of_the_definition(self) -> None:
        rng, of = random.Random(4), grid()
        ways = [Exposed(w, of) for w in (hung(2.5, 1, 3), hung(4.0, 2, 1), hung(5.0, 3), sunk(20.0), sunk(45.0, fly_class=4))]
        belief, casts = SearchBelief(of), []
        for _ in range(100):
            way = rng.choice(ways)
            events = []
            if rng.random() < 0.25:
                fly = rng.randrange(len(way.one.flies))
                events.append(Event(way.one.depth_m[fly][1] + rng.gauss(0.0, 0.2), rng.random() < 0.5, rng.choice([fly, None])))
            belief.cast(way, events)
            casts.append((way.one, events))
        expected = by_definition(of, casts)
        worst = max(abs(a - b) for x, y in zip(belief.joint(), expected, strict=True) for a, b in zip(x, y, strict=True))
        self.assertLess(worst, 1e-12)

    def test_a_rate_alone_is_the_gamma_poisson_of_the_books(self) -> None:
        """With one place and one fly, k events in S minutes weigh each rate by rate^k exp(-rate S): the Poisson likelihood whose
        conjugate is the gamma (any textbook of Bayesian statistics, from memory)."""
        of, way = grid(), hung(3.0, 1)
        belief, exposed = SearchBelief(of), Exposed(hung(3.0, 1), grid())
        for k in range(40):
            belief.cast(exposed, [Event(3.05, True)] if k in {5, 9, 20} else [])
        cell = min(range(len(of.cells)), key=lambda i: abs(of.cells[i][0] - 3.1) + abs(of.cells[i][1] - 0.9))
        row = belief.joint()[1][cell * _R : cell * _R + _R]
        s = exposed.joint(exposed.wanted(1))[0][cell]
        prior = of.prior()[1][cell * _R : cell * _R + _R]
        closed = [p * rate**3 * math.exp(-40.0 * rate * s) for p, rate in zip(prior, of.rates_pmin, strict=True)]
        share, wanted = [x / sum(row) for x in row], [x / sum(closed) for x in closed]
        self.assertLess(max(abs(a - b) for a, b in zip(share, wanted, strict=True)), 2e-2)  # strays are the difference
        self.assertEqual(way.minutes, exposed.one.minutes)

    def test_two_flies_share_a_fish_as_the_model_says(self) -> None:
        of, cell = grid(), 0
        team = Exposed(hung(4.0, 1, 2), of)
        cell = min(range(len(of.cells)), key=lambda i: abs(of.cells[i][0] - 3.6) + abs(of.cells[i][1] - 0.9))
        c, u = of.cells[cell]
        point, second = 3.0 * answers(c, u, 4.05), 3.0 * answers(c, u, 3.05)
        both, first, other = (team.minutes(w) for w in ((True, True), (True, False), (False, True)))
        self.assertAlmostEqual(both[0][cell] + both[1][cell], max(point, second), places=9)
        self.assertAlmostEqual(first[0][cell], point, places=9)
        self.assertAlmostEqual(first[1][cell], second - point, places=9)
        self.assertEqual((other[0][cell], round(other[1][cell], 9)), (0.0, round(second, 9)))
        self.assertEqual(team.minutes((False, False)), both)

    def test_blank_casts_move_it_away_and_a_take_brings_it_to_its_depth(self) -> None:
        belief = SearchBelief(grid(2.0, 1.5))
        shallow = Exposed(hung(1.5), belief.grid)
        before = mean_m(belief)
        for _ in range(12):
            belief.cast(shallow)
        self.assertGreater(mean_m(belief), before + 0.1)
        belief.cast(Exposed(hung(4.0), belief.grid), [Event(4.0, True)])
        self.assertTrue(3.6 < mean_m(belief) < 5.2, mean_m(belief))

    def test_a_knock_says_depth_right_and_fly_wrong_and_a_take_the_reverse(self) -> None:
        for took, more in ((True, True), (False, False)):
            belief = SearchBelief(grid())
            before = sum(belief.joint()[1])
            belief.cast(Exposed(hung(3.0, 1), belief.grid), [Event(3.0, took)])
            self.assertEqual(sum(belief.joint()[1]) > before, more)
            self.assertTrue(2.5 < mean_m(belief) < 4.2)

    def test_time_fades_where_and_how_many_each_in_its_own_kind_of_day_and_loses_nothing(self) -> None:
        belief = SearchBelief(grid())
        for _ in range(10):
            belief.cast(Exposed(hung(3.0), belief.grid), [Event(3.0, True)])
        kinds, nobody = belief.kinds(), [row[at] for state in belief.of.values() for row in state for at in range(0, 9, _R)]
        before = {kind: [list(row) for row in state] for kind, state in belief.of.items()}
        belief.wait(90.0)
        for kind, weight in belief.kinds().items():
            self.assertAlmostEqual(weight, kinds[kind], places=12)
        self.assertEqual(belief.of["still"], before["still"])
        self.assertNotEqual(belief.of["drifting"], before["drifting"])
        depth = [[sum(row[at : at + _R]) for at in range(0, len(row), _R)] for row in belief.of["schools"]]
        was = [[sum(row[at : at + _R]) for at in range(0, len(row), _R)] for row in before["schools"]]
        self.assertLess(max(abs(a - b) for x, y in zip(depth, was, strict=True) for a, b in zip(x, y, strict=True)), 1e-15)
        self.assertGreater(sum(nobody), 0.0)
        self.assertAlmostEqual(sum(WEIGHTS.values()), 1.0)

    def test_another_place_keeps_depth_and_fly_and_forgets_that_it_was_empty(self) -> None:
        belief = SearchBelief(grid())
        for _ in range(80):
            belief.cast(Exposed(hung(3.0), belief.grid))
            belief.cast(Exposed(hung(5.0, 2), belief.grid))
        depth, nobody = marginal(belief), sum(row[at] for row in belief.joint() for at in range(0, len(row), _R))
        belief.elsewhere()
        self.assertLess(max(abs(a - b) for a, b in zip(marginal(belief), depth, strict=True)), 1e-12)
        self.assertGreater(nobody, 0.15)
        self.assertAlmostEqual(sum(row[at] for row in belief.joint() for at in range(0, len(row), _R)), 0.10, places=9)

    def test_light_that_drives_them_down_moves_every_centre(self) -> None:
        belief = SearchBelief(grid(2.0, 0.5))
        before = mean_m(belief)
        belief.shift(4)
        self.assertTrue(before + 0.6 < mean_m(belief) <= before + 1.0)
        self.assertAlmostEqual(sum(marginal(belief)), 1.0, places=9)


class FirstEventTests(unittest.TestCase):
    def test_effort_between_two_places_is_split_as_optimal_search_has_it(self) -> None:
        """Koopman: with exponential detection, search the likelier place alone until both posterior densities are equal, then
        both alike (B. O. Koopman, Search and Screening, 1946; L. D. Stone, Theory of Optimal Search, 1975; from memory). Greedy
        search follows it: with chances 2 : 1 and equal sweep the first has ln 2 / (rate s) casts alone."""
        of = grid(2.0, 0.12)
        belief = SearchBelief(of)
        # One class of fish, one rate, one reach: only the place is open.
        cells = {i for i, (c, u) in enumerate(of.cells) if u == of.reaches_m[0] and min(abs(c - 1.6), abs(c - 4.6)) < 0.13}
        for state in belief.of.values():
            for fly, row in enumerate(state):
                state[fly] = [
                    (2.0 if of.cells[i // _R][0] < 3.0 else 1.0) * (i % _R == 4 and i // _R in cells and fly == 0)
                    for i in range(len(row))
                ]
        belief._to_one()
        ways = [Exposed(hung(c, minutes=1.0), of) for c in (1.6, 4.6)]
        rate = of.rates_pmin[4]
        sweep = max(ways[0].joint((True,))[0])
        first_alone, casts = 0, 0
        while casts < 200:
            worth = [takes_pmin(w, belief.interest()) for w in ways]
            if worth[1] > worth[0]:
                break
            belief.cast(ways[0])
            first_alone, casts = first_alone + 1, casts + 1
        self.assertAlmostEqual(first_alone, math.log(2.0) / (rate * sweep), delta=1.0)


class ThinkTests(unittest.TestCase):
    WAYS = [hung(d, k) for d in (1.5, 2.5, 3.5, 4.5, 5.5) for k in (1, 3)] + [hung(d, 1, 3) for d in (2.5, 4.5)]
    WAYS += [sunk(c) for c in (5.0, 20.0, 40.0, 60.0)]

    def log(self, way: Presentation, kinds: str, at_min: float = 0.0) -> dict[str, Any]:
        """Return a log of casts so: b(lank), k(nock), t(ake)."""
        happened, at = [], at_min
        for kind in kinds:
            happened.append({"kind": "cast", "fished": "a", "at_min": at})
            at += way.minutes
            depth = way.depth_m[0][1]
            if kind == "k":
                happened.append({"kind": "knock", "fished": "a", "at_min": at, "depth_m": depth})
            happened.append({"kind": "take" if kind == "t" else "nothing", "fished": "a", "at_min": at, "depth_m": depth})
        return {"fished": {"a": told(way)}, "happened": happened, "now_min": at}

    def texts(self, answer: dict[str, Any]) -> str:
        return " ".join(one["text"] for one in (*answer["said"], *answer["move"]["words"]))

    def test_before_the_first_cast_it_proposes_the_best_by_the_reading(self) -> None:
        answer = think(table(self.WAYS, mean_m=4.5, sd_m=0.4), {})
        self.assertTrue(answer["move"]["change"])
        self.assertIsNone(answer["move"]["stay"])
        self.assertIn("4.5", answer["move"]["best"]["key"])
        self.assertAlmostEqual(sum(one["chance"] for one in answer["ridge"]), 1.0, places=9)

    def test_a_blank_hour_shallow_sends_the_fly_deeper_and_says_why_and_at_what_price(self) -> None:
        way = hung(1.5)
        answer = think(table(self.WAYS, mean_m=2.5, sd_m=1.5), self.log(way, "b" * 14))
        self.assertTrue(answer["move"]["change"])
        way = next(w for w in self.WAYS if w.key == answer["move"]["best"]["key"])
        self.assertGreater(way.depth_m[0][1], 2.4)
        self.assertIn("blank casts", self.texts(answer))
        self.assertIn("Costs {cost_min}", self.texts(answer))
        best, stay = answer["move"]["best"], answer["move"]["stay"]
        self.assertGreater(best["value"], (1.0 + has_to_bring(best["cost_min"])) * stay["value"])

    def test_takes_one_after_another_are_not_left(self) -> None:
        answer = think(table(self.WAYS), self.log(hung(3.5), "ttbt"))
        self.assertFalse(answer["move"]["change"])
        self.assertIn("Same again", self.texts(answer))

    def test_knocks_without_a_hold_change_the_fly_and_not_the_depth(self) -> None:
        answer = think(table([w for w in self.WAYS if w.float_m], wanted=(1, 1, 2, 1)), self.log(hung(3.5, 1), "kbkbkk"))
        self.assertTrue(answer["move"]["change"])
        best = next(w for w in self.WAYS if w.key == answer["move"]["best"]["key"])
        self.assertNotEqual([f.fly_class for f in best.flies], [1])
        self.assertLess(abs(best.depth_m[0][1] - 3.5), 1.1)

    def test_a_barren_place_is_left_for_another(self) -> None:
        way = hung(3.0, 1, 3)
        log = self.log(way, "b" * 50)
        answer = think({**table(self.WAYS, mean_m=3.0, sd_m=0.6), "day_min": 600.0}, log)
        self.assertTrue(answer["move"]["elsewhere"])
        self.assertIn("Move to another place", self.texts(answer))

    def test_a_refused_way_is_not_proposed_again_and_schools_see_what_is_theirs(self) -> None:
        of = table(self.WAYS, mean_m=4.5, sd_m=0.4)
        first = think(of, {})["move"]["best"]["key"]
        second = think(of, {"refused": [{"key": first, "why": "no such fly left"}]})["move"]["best"]["key"]
        self.assertNotEqual(first, second)
        log = self.log(hung(1.5), "b" * 12)
        for school, keeps in (
            ("fly-first", lambda w: abs(w.depth_m[0][1] - 1.5) < 0.35), ("depth-first", lambda w: w.flies == hung(1.5).flies),
            ("static", lambda w: w.float_m is not None), ("top-down", lambda w: w.depth_m[0][1] >= 1.1),
        ):  # fmt: skip
            key = think(of, {**log, "school": school})["move"]["best"]["key"]
            self.assertTrue(keeps(next(w for w in [*self.WAYS, hung(1.5)] if w.key == key)), (school, key))

    def test_his_own_clock_ends_a_depth_that_gives_nothing(self) -> None:
        alike = [w for w in self.WAYS if w.float_m and [fly.fly_class for fly in w.flies] == [1]]
        of, log = table(alike, mean_m=3.5, sd_m=0.4), self.log(hung(3.5), "tb")
        self.assertFalse(think(of, log)["move"]["change"])
        capped = think(of, {**log, "most_min": 3.0})
        self.assertTrue(capped["move"]["change"])
        self.assertNotEqual(capped["move"]["best"]["key"], hung(3.5).key)

    def test_what_was_tied_on_since_is_where_the_next_change_starts_from(self) -> None:
        of, log = table(self.WAYS, mean_m=4.5, sd_m=0.4), self.log(hung(1.5), "b" * 6)
        best = think(of, log)["move"]["best"]
        self.assertGreater(best["cost_min"], 0.0)
        new = next(w for w in self.WAYS if w.key == best["key"])
        tied = think(of, {**log, "fished": {**log["fished"], "b": told(new)}, "now": "b"})["move"]
        self.assertEqual((tied["change"], tied["stay"]["key"], tied["stay"]["cost_min"]), (False, new.key, 0.0))

    def test_evidence_of_others_counts_with_its_doubt(self) -> None:
        of = table(self.WAYS, mean_m=2.0, sd_m=1.0)
        means = []
        for kind in ("told", "seen"):
            ridge = think(of, {"happened": [{"kind": kind, "at_min": 1.0, "depth_m": 4.6}], "now_min": 1.0})["ridge"]
            means.append(sum(one["depth_m"] * one["chance"] for one in ridge))
        plain = sum(one["depth_m"] * one["chance"] for one in think(of, {"now_min": 1.0})["ridge"])
        self.assertTrue(plain < means[0] < means[1], (plain, means))

    def chances(self, happened: list[dict[str, Any]], of: dict[str, Any] | None = None) -> dict[str, Any]:
        return think(of or table(self.WAYS, mean_m=2.0, sd_m=1.0), {"happened": happened, "now_min": 2.0})

    def test_somebody_who_catches_says_not_empty_and_a_fly_of_his_says_which(self) -> None:
        plain = self.chances([])
        catching = self.chances([{"kind": "catching", "at_min": 1.0}])
        self.assertLess(catching["empty"], 0.7 * plain["empty"])
        self.assertAlmostEqual(catching["ridge"][5]["chance"], plain["ridge"][5]["chance"], delta=0.002)
        told_of = {"kind": "told", "at_min": 1.0, "depth_m": 3.0}
        dark = self.chances([{**told_of, "fly_class": 2}])["wanted"]
        self.assertGreater(dark["dark natural"], 1.1 * self.chances([told_of])["wanted"]["dark natural"])
        self.assertLess(dark["bright lure"], self.chances([told_of])["wanted"]["bright lure"])

    def test_changed_water_keeps_what_was_learnt_and_lets_some_of_it_fade_to_the_new_reading(self) -> None:
        of = table(self.WAYS, mean_m=2.0, sd_m=0.6)
        log = self.log(hung(4.5), "ttbt")
        new = grid(mean_m=1.0, sd_m=0.4)
        end = log["now_min"]
        means = []
        for more in ([], [{"kind": "changed", "at_min": end}],
                     [{"kind": "changed", "at_min": end, "stated": list(new.stated), "wanted": [1, 1, 1, 1]}]):  # fmt: skip
            ridge = think(of, {**log, "happened": [*log["happened"], *more]})["ridge"]
            means.append(sum(one["depth_m"] * one["chance"] for one in ridge))
        self.assertTrue(means[0] > means[1] > means[2] > 2.5, means)
        again = think(of, {**log, "happened": [*log["happened"], *more, *more]})["ridge"]
        self.assertLess(sum(one["depth_m"] * one["chance"] for one in again), means[2])

    def test_casts_go_near_before_far_and_begin_again_close_after_a_change_of_fly(self) -> None:
        of, way, other = table(self.WAYS), told(hung(3.5)), told(hung(3.5, 3))
        spot, happened, gone = {"toward": -2, "far": False}, [], []
        for i in range(12):
            fished = "a" if i < 11 else "b"
            happened += [{"kind": "cast", "fished": fished, "at_min": float(i), **spot}, {"kind": "nothing", "at_min": i + 0.5}]
            gone.append((spot["toward"], spot["far"]))
            spot = think(of, {"fished": {"a": way, "b": other}, "happened": happened})["fan"]["next"]
        self.assertEqual(gone[:10], [(t, far) for far in (False, True) for t in (-2, -1, 0, 1, 2)])
        self.assertEqual(gone[10], (-2, False))
        self.assertEqual(spot, {"toward": -2, "far": False} if gone[11] != (-2, False) else {"toward": -1, "far": False})

    def test_a_second_rod_lies_where_the_first_would_not_meet_them(self) -> None:
        of = table(self.WAYS, mean_m=3.0, sd_m=1.5)
        log = self.log(hung(1.5), "bb")
        self.assertIsNone(think(of, log)["other_rod"])
        other = think(of, {**log, "rods": 2})["other_rod"]
        way = next(w for w in self.WAYS if w.key == other["key"])
        self.assertIsNotNone(way.float_m)
        self.assertGreater(way.depth_m[0][0], 2.0)
        self.assertIn("Second rod", other["words"]["text"])

    def test_a_fish_that_is_landed_after_its_take_is_one_fish(self) -> None:
        of, log = table(self.WAYS), self.log(hung(3.5), "bt")
        landed = {"kind": "landed", "fished": "a", "at_min": log["now_min"], "depth_m": 1.0}
        self.assertEqual(think(of, {**log, "happened": [*log["happened"], landed]}), think(of, log))
        more = [*log["happened"], landed, {**landed, "at_min": log["now_min"] + 1.0}]
        self.assertNotEqual(think(of, {**log, "happened": more, "now_min": 20.0}), think(of, {**log, "now_min": 20.0}))

    def test_taking_back_is_as_if_it_had_not_been(self) -> None:
        of, log = table(self.WAYS), self.log(hung(3.5), "bkt")
        without = {**log, "happened": log["happened"][:-2]}
        self.assertEqual(think(of, without), think(of, {**self.log(hung(3.5), "bk"), "now_min": log["now_min"]}))

    def test_it_runs_on_nothing_but_the_standard_library_and_says_the_same(self) -> None:
        of, log = json.dumps(table(self.WAYS)), json.dumps(self.log(hung(3.5), "bkbtb"))
        script = (
            "import sys\n"
            "class Refuse:\n"
            "    def find_spec(self, name, *_):\n"
            "        if name.split('.')[0] in {'numpy', 'numba', 'shapely', 'astral'}: raise ImportError(name)\n"
            "sys.meta_path.insert(0, Refuse())\n"
            "import json\nfrom stillthread.search.thinker import think\n"
            f"print(json.dumps(think(json.loads({of!r}), json.loads({log!r}))))"
        )
        core = Path(__file__).parents[1]
        alone = subprocess.run([sys.executable, "-c", script], cwd=core, capture_output=True, text=True, check=True).stdout
        self.assertEqual(json.loads(alone), json.loads(json.dumps(think(json.loads(of), json.loads(log)))))

    def test_changes_cost_what_is_changed(self) -> None:
        costs = Costs()
        self.assertEqual(costs.between(None, hung(2.0)), 0.0)
        self.assertEqual(costs.between(hung(2.0), hung(3.0)), 1.0)
        self.assertEqual(costs.between(hung(2.0, 1), hung(2.0, 3)), 2.5)
        self.assertEqual(costs.between(hung(2.0, 1), hung(3.0, 1, 3)), 3.5)
        self.assertEqual(costs.between(hung(2.0, 1, 3), hung(2.0, 3, 1)), 5.0)  # each is tied on anew
        self.assertEqual(costs.between(hung(2.0, 1, 3), hung(2.0, 1)), 0.0)
        self.assertEqual(costs.between(sunk(5.0), sunk(60.0)), 0.0)
        self.assertEqual(costs.between(sunk(5.0), hung(2.0)), 6.0)

    def test_a_place_where_something_came_is_not_left_for_ways_that_were_blank_since(self) -> None:
        ways = [hung(depth) for depth in (1.5, 2.5, 3.5, 4.5)]
        fished = {one.key: told(one) for one in ways}
        blanks = [{"kind": "cast", "at_min": 20.0 + 4.0 * i, "fished": ways[i % 4].key} for i in range(12)]
        log = {"fished": fished, "happened": blanks, "now_min": 70.0}
        take = {"kind": "take", "at_min": 6.0, "fished": ways[3].key, "depth_m": 4.5, "elapsed_s": 90.0}
        caught = {**log, "happened": [{"kind": "cast", "at_min": 4.0, "fished": ways[3].key}, take, *blanks]}
        of = table(ways)
        self.assertTrue(think(of, log)["move"]["elsewhere"])
        self.assertFalse(think(of, caught)["move"]["elsewhere"])

    def test_a_place_is_given_its_time_before_it_is_left(self) -> None:
        of = {**table(self.WAYS, mean_m=3.0, sd_m=0.6), "day_min": 600.0}
        thinker = Thinker(of)
        left = [casts for casts in range(1, 60) if thinker.think(self.log(hung(3.0, 1, 3), "b" * casts))["move"]["elsewhere"]]
        self.assertGreaterEqual(4.0 * left[0], SETTLED_MIN)
        # Just come, nothing there is his to tell however barren the last place was.
        log = self.log(hung(3.0, 1, 3), "b" * 50)
        came = {**log, "happened": [*log["happened"], {"kind": "place", "at_min": log["now_min"]}]}
        self.assertFalse(think(of, came)["move"]["elsewhere"])

    def test_the_blanks_of_the_last_place_are_not_told_at_the_new_one(self) -> None:
        of, log = table(self.WAYS), self.log(hung(3.0, 1, 3), "b" * 8)
        moved = {**log, "happened": [*log["happened"], {"kind": "place", "at_min": log["now_min"]}]}
        self.assertIn("blank casts through", self.texts(think(of, log)))
        self.assertNotIn("blank casts through", self.texts(think(of, moved)))
        self.assertLess(think(of, moved)["empty"], think(of, log)["empty"])
