"""Practice days: the same on every machine, drawn from the search's worlds, and scored by what the simulator works out."""

from __future__ import annotations

import hashlib
import json
import math
import subprocess
import sys
import unittest
from dataclasses import asdict, replace
from datetime import date, timedelta
from pathlib import Path
from typing import Any
from unittest import mock

from stillthread.depth.picture import read_water
from stillthread.errors import BadInput
from stillthread.plan.choose import choose
from stillthread.practice import drills, game
from stillthread.practice.answer import LANDED, PLAYED_MIN, cast, met, takes_of
from stillthread.practice.debrief import FishedCast, by_advice, by_ladder, fished_by, knew, luck_of, moments
from stillthread.practice.fished import presentation, search_of
from stillthread.practice.scenario import Own, another_day, check_seed, read_so_far, scenario_of, seed_of_week
from stillthread.practice.scenario_levels import LEVELS, new_seed, truth_again
from stillthread.practice.truth import DAY_MIN, PATCH_MIN, PATCH_OF_MIN, READING_MIN, seeded
from stillthread.search.day import Table
from stillthread.search.presentation import TAKE, Presentation, TiedFly
from stillthread.search.thinker import Thinker
from stillthread.sinking.cast import Cast
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.water.seasonal import usual_surface_c
from tests.planning import BOX, FREE
from tests.rigs import HEAVY_NYMPH, rig
from tests.searching import hung, table, told

SEED = "BCDFGH"
# As this chance was drawn on 27 November 2026, Python 3.11.
DRAWN, DIGEST = [0.974489055788, 1.545039880014], "1f5abb78afe9"


def still(depth_m: float, fly_class: int = 1, minutes: float = 2.0) -> Presentation:
    """Return a fly that lies at one depth for so long, and half a minute on the way."""
    path = (depth_m, depth_m)
    return Presentation(
        key=f"still {depth_m}",
        method="float",
        line="floating",
        flies=(TiedFly("fly", fly_class),),
        minutes=minutes,
        time_s=(0.0, 90.0),
        depth_m=(path,),
    )


class DealTests(unittest.TestCase):
    def test_a_seed_is_the_same_day_on_every_machine(self) -> None:
        # Chance of the standard library alone: the digest was written down on another day.
        told = [
            [seed, level, asdict(scenario_of(seed, level).truth)["kind"], scenario_of(seed, level).water]
            for seed in (SEED, "ZXWVTS")
            for level in LEVELS
        ]
        self.assertEqual(
            told,
            [[seed, level, scenario_of(seed, level).truth.kind, scenario_of(seed, level).water] for seed, level, *_ in told],
        )
        drawn = [seeded("still thread").random(), seeded("still thread").gauss(0.0, 1.0)]
        self.assertEqual([round(x, 12) for x in drawn], DRAWN)
        digest = hashlib.sha256(json.dumps([new_seed(seeded("a")), seed_of_week(date(2026, 7, 1))]).encode()).hexdigest()[:12]
        self.assertEqual(digest, DIGEST)

    def test_the_week_has_one_day_and_another_week_another(self) -> None:
        self.assertEqual(seed_of_week(date(2026, 6, 29)), seed_of_week(date(2026, 7, 5)))
        self.assertNotEqual(seed_of_week(date(2026, 7, 5)), seed_of_week(date(2026, 7, 6)))
        self.assertEqual(check_seed(" bcdfgh "), SEED)
        for wrong in ("", "BCDFG", "BCDFGA", "BCDFG0", "BCDFGHJ"):
            with self.assertRaises(BadInput):
                check_seed(wrong)
        with self.assertRaises(BadInput):
            scenario_of(SEED, "impossible")

    def test_every_level_deals_days_that_can_be_fished(self) -> None:
        rng = seeded("many")
        kinds: dict[str, set[str]] = {level: set() for level in LEVELS}
        for level in LEVELS:
            for _ in range(12):
                scenario = scenario_of(new_seed(rng), level)
                truth, bottom = scenario.truth, scenario.conditions.bottom_depth_m
                kinds[level].add(truth.kind)
                for depth in (truth.begin_m, truth.end_m, truth.other_m or truth.begin_m):
                    self.assertTrue(0.0 < depth < bottom, scenario)
                self.assertTrue(0.0 < truth.rate_pmin < 1.0)
                self.assertEqual(truth.empty, truth.kind == "barren")
        self.assertEqual(kinds["easy"], {"steady"})
        self.assertGreater(len(kinds["hard"]), 3)

    def test_only_what_was_read_is_known(self) -> None:
        scenario = scenario_of(SEED, "easy")
        nothing = read_so_far(scenario, frozenset(), 30.0)
        self.assertEqual((len(nothing.readings), nothing.signs, len(nothing.assumed)), (1, (), 2))
        self.assertEqual((nothing.at - scenario.conditions.at).total_seconds(), 1800.0)
        every = read_so_far(scenario, frozenset(("lowering", "look", "sounding", "clarity")), 0.0)
        self.assertEqual(
            (every.readings, every.secchi_m, every.assumed), (scenario.conditions.readings, scenario.conditions.secchi_m, ())
        )
        self.assertEqual(every.signs, scenario.signs)

    def test_another_day_on_the_same_water_hides_other_fish(self) -> None:
        first = scenario_of(SEED, "easy")
        second = another_day(first, "ZXWVTS", "hard")
        self.assertEqual((second.conditions, second.turns, second.signs), (first.conditions, first.turns, first.signs))
        self.assertEqual(second.truth, truth_again(first.likely, "ZXWVTS", "hard"))
        self.assertNotEqual(second.truth, first.truth)
        self.assertIn(second.truth.kind, LEVELS["hard"].kinds)
        self.assertAlmostEqual(sum(first.likely.chance), 1.0, places=6)
        begun = [another_day(first, new_seed(seeded(str(k))), "fair").truth.begin_m for k in range(400)]
        mean = sum(z * p for z, p in zip(first.likely.depth_m, first.likely.chance, strict=True))
        self.assertAlmostEqual(sum(begun) / len(begun), mean, delta=0.2)
        for seed, level in (("short", "easy"), ("ZXWVTS", "impossible")):
            with self.assertRaises(BadInput):
                another_day(first, seed, level)

    def test_the_weather_turns_twice_and_what_is_read_turns_with_it(self) -> None:
        scenario = scenario_of(SEED, "fair")
        self.assertEqual(len(scenario.turns), 2)
        self.assertEqual(scenario.weather(0.0), (scenario.conditions.wind, scenario.conditions.cloud_fraction))
        late = read_so_far(scenario, frozenset(), 235.0)
        self.assertEqual((late.wind, late.cloud_fraction), scenario.turns[1][1:])
        self.assertTrue(65.0 <= scenario.turns[0][0] <= 95.0)

    def test_fish_move_come_and_go_and_are_not_at_home(self) -> None:
        truth = replace(scenario_of(SEED, "easy").truth, begin_m=2.0, end_m=4.0, patchy=True, empty=True)
        self.assertEqual([truth.centre_m(at) for at in (0.0, 60.0, 105.0, 150.0, 240.0)], [2.0, 2.0, 3.0, 4.0, 4.0])
        self.assertEqual(truth.rate_at(1.0, 0), 0.0)
        self.assertEqual(truth.rate_at(1.0, 1), truth.rate_pmin)
        self.assertEqual(truth.rate_at(PATCH_MIN + 1.0, 1), 0.0)
        self.assertEqual(truth.rate_at(PATCH_OF_MIN + 1.0, 1), truth.rate_pmin)


class OwnWaterTests(unittest.TestCase):
    def test_a_day_is_dealt_on_ones_own_water_in_its_own_season(self) -> None:
        south = Own(
            name="a lagoon",
            latitude_deg=-41.3,
            longitude_deg=-71.8,
            altitude_m=780.0,
            fetch_km=4.0,
            bottom_m=8.0,
            secchi_m=5.0,
            species="brown",
        )
        for seed in (SEED, "ZXWVTS", "XK9ZWD"):
            scenario = scenario_of(seed, "fair", south)
            given = scenario.conditions
            self.assertEqual((scenario.water, given.species.key, given.place.longitude_deg), ("a lagoon", "brown", -71.8))
            self.assertTrue(6.4 <= given.bottom_depth_m <= 9.6 and 3.7 <= given.secchi_m <= 6.3)
            self.assertIn(given.at.month, (9, 10, 11, 12, 1, 2, 3, 4))
            self.assertEqual(given.at.utcoffset(), timedelta(hours=-5))
            usual = min(max(usual_surface_c(south.lake, given.at.date()), 5.0), 20.0)
            self.assertAlmostEqual(given.readings[0].water_c, usual, delta=1.6)
            self.assertTrue(0.0 < scenario.truth.begin_m < given.bottom_depth_m)
            unread = read_so_far(scenario, frozenset(), 0.0)
            self.assertEqual((unread.bottom_depth_m, unread.secchi_m), (8.0, 5.0))
        self.assertNotEqual(scenario_of(SEED, "fair", south).truth, scenario_of(SEED, "fair").truth)
        shallow = scenario_of(SEED, "hard", replace(south, bottom_m=0.8))
        self.assertEqual(shallow.conditions.bottom_depth_m, 1.0)
        # In a deep lake they are where the reading has them, not a tenth of the depth down.
        deep = [
            scenario_of(seed, "fair", replace(south, bottom_m=90.0)).truth.begin_m
            for seed in (SEED, "ZXWVTS", "XK9ZWD", "TB6R59")
        ]
        self.assertLess(min(deep), 6.0)


class GameTests(unittest.TestCase):
    hidden = scenario_of(SEED, "easy").hidden

    def shot(self, depth_m: float = 2.0) -> dict[str, Any]:
        return {"one": told(still(depth_m)), "low_m": depth_m, "high_m": depth_m, "bottom_m": 4.0, "touched": False}

    def test_each_act_costs_its_minutes_and_nothing_is_done_after_the_end(self) -> None:
        log: list[dict[str, Any]] = [game.act(self.hidden, [], {"kind": "reading", "what": "look"})]
        log.append(game.act(self.hidden, log, {"kind": "place"}))
        log.append(game.act(self.hidden, log, {"kind": "cast", "shot": self.shot()}))
        self.assertEqual((game.made(log), game.place(log)), (frozenset({"look"}), 1))
        self.assertEqual([one["at_min"] for one in log], [0.0, 5.0, 20.0])
        self.assertIn(game.at_min(log), (22.0, 26.0))  # a fish is played
        # Another depth of the float is a minute; one way that is kept costs none.
        log.append(game.act(self.hidden, log, {"kind": "cast", "shot": self.shot(3.0)}))
        self.assertEqual(log[3]["at_min"], log[2]["ends_min"])
        self.assertEqual(game.show(log, None)["clock"], f"09:{round(game.at_min(log)):02d}")
        with self.assertRaises(game.NotNow) as again:
            game.act(self.hidden, log, {"kind": "reading", "what": "look"})
        self.assertEqual(again.exception.code, "read_before")
        with self.assertRaises(game.NotNow) as late:
            game.act(self.hidden, [{**log[1], "ends_min": DAY_MIN}], {"kind": "place"})
        self.assertEqual(late.exception.code, "day_over")

    def test_no_fish_takes_below_the_bottom(self) -> None:
        rich = replace(self.hidden, truth=replace(AnswerTests.truth, begin_m=3.9, end_m=3.9, rate_pmin=0.9))
        shot, log = self.shot(3.95), list[dict[str, Any]]()
        for _ in range(40):
            log.append({**game.act(rich, log, {"kind": "cast", "shot": shot}), "ends_min": 0.0})
        depths = [came["depth_m"] for one in log for came in one["came"]]
        self.assertGreater(len(depths), 20)
        self.assertEqual(max(depths), 4.0)

    def test_a_fish_is_played_an_empty_place_is_left_and_the_advice_to_leave_it_is_told(self) -> None:
        rich = replace(self.hidden, truth=replace(AnswerTests.truth, begin_m=2.1, end_m=2.1, rate_pmin=0.9))
        lines = [
            game.act(rich, [{"kind": "place", "ends_min": float(k)}], {"kind": "cast", "shot": self.shot()}) for k in range(20)
        ]
        lasted = {bool(game.took(one)): round(one["ends_min"] - one["at_min"], 2) for one in lines}
        self.assertEqual(lasted, {True: 2.0 + PLAYED_MIN, False: 2.0})
        barren, cast_it = replace(rich, truth=replace(rich.truth, empty=True)), {"kind": "cast", "shot": self.shot()}
        self.assertEqual(game.act(barren, [], cast_it)["expected"], 0.0)
        moved = game.act(barren, [], {"kind": "place"})
        self.assertGreater(game.act(barren, [moved], cast_it)["expected"], 0.1)
        later = [game.act(barren, [{**moved, "ends_min": float(k)}], cast_it)["came"] for k in range(20)]
        self.assertTrue(any(later))
        move = {"best": {"key": "a"}, "change": True, "elsewhere": True, "words": []}
        with mock.patch.object(Thinker, "think", return_value={"move": move}):
            said = game.advise(table([hung(1.0)]), [lines[0]])
        self.assertEqual((said["elsewhere"], said["key"]), (True, "a"))

    def test_choosy_days_are_choosy_and_no_way_is_answered_more_than_another(self) -> None:
        likely = scenario_of(SEED, "easy").likely
        days = [truth_again(likely, str(k), "hard") for k in range(60)]
        self.assertTrue(all(day.fly > 0 for day in days if day.kind == "selective"))
        self.assertTrue(any(day.fly == 0 for day in days))
        of, _ = search_of(choose(read_water(scenario_of(SEED, "easy").conditions), BOX, FREE))
        self.assertEqual({one["share"] for one in of["options"]}, {1.0})

    def test_plans_go_along_for_what_may_be_read_next(self) -> None:
        sets = game.ahead(frozenset({"sounding"}))
        self.assertEqual([sorted(one) for one in sets[:2]], [["sounding"], ["lowering", "sounding"]])
        self.assertEqual((sets[-1], len(sets)), (frozenset(READING_MIN), 4))
        self.assertEqual(game.nearest(sets, frozenset({"sounding", "clarity"})), 0)
        self.assertEqual(game.nearest(sets, frozenset({"sounding", "lowering", "clarity"})), 1)
        self.assertEqual(game.nearest(sets, frozenset(READING_MIN)), 3)

    def test_it_runs_on_nothing_but_the_standard_library_and_says_the_same(self) -> None:
        of = {**table([hung(1.0), hung(2.0), hung(3.0)])}
        pack = json.dumps(
            {"sealed": game.seal(self.hidden, scenario_of(SEED, "easy").likely), "plans": [{"made": [], "table": of}]}
        )
        log = [game.act(self.hidden, [], {"kind": "cast", "shot": self.shot()})]
        asked = [
            json.dumps({"log": log, "told": None, **more})
            for more in (
                {"ask": "act", "act": {"kind": "cast", "shot": self.shot(3.0)}},
                {"ask": "advise"},
                {"ask": "tell", "with_advice": True},
                {"ask": "again", "level": "hard", "seed": "ZXWVTS"},
            )
        ]
        script = (
            "import sys, json\n"
            "class Refuse:\n"
            "    def find_spec(self, name, *_):\n"
            "        if name.split('.')[0] in {'numpy', 'numba', 'shapely', 'astral'}: raise ImportError(name)\n"
            "        if name in {'stillthread.errors', 'stillthread.ranges', 'stillthread.plan'}: raise ImportError(name)\n"
            "sys.meta_path.insert(0, Refuse())\n"
            "from stillthread.practice.game import play_json\n"
            f"print(json.dumps([play_json({pack!r}, one) for one in {asked!r}]))"
        )
        core = Path(__file__).parents[1]
        alone = subprocess.run([sys.executable, "-c", script], cwd=core, capture_output=True, text=True, check=True).stdout
        self.assertEqual(json.loads(alone), [game.play_json(pack, one) for one in asked])
        self.assertNotIn("begin_m", pack)


class AnswerTests(unittest.TestCase):
    hidden = scenario_of(SEED, "easy").hidden
    truth = replace(
        hidden.truth, begin_m=3.0, end_m=3.0, reach_m=1.0, rate_pmin=0.2, fly=0, other_m=None, patchy=False, empty=False
    )

    def test_takes_are_the_hand_worked_ones(self) -> None:
        # A fly at 2.05 m (its layer's middle), fish at 3 m that rise a metre: exp(-0.95^2) of 0.2 a minute for 1.5 minutes.
        answered = math.exp(-(0.95**2))
        self.assertAlmostEqual(takes_of(self.truth, still(2.0), 0.0), -math.expm1(-TAKE[True] * 0.2 * 1.5 * answered), places=9)
        # Hardly below them; not where nobody is; less where another fly is wanted.
        self.assertLess(takes_of(self.truth, still(3.6), 0.0), 0.01)
        self.assertEqual(takes_of(replace(self.truth, empty=True), still(2.0), 0.0), 0.0)
        choosy = replace(self.truth, fly=2)
        shy, keen = (-math.log1p(-takes_of(choosy, still(2.0, k), 0.0)) for k in (1, 2))
        self.assertAlmostEqual(shy / keen, TAKE[False] / TAKE[True])
        self.assertEqual(len(met(self.truth, still(2.0), 0.0, 0)[0][0]), 1)

    def test_what_comes_is_what_is_expected_in_the_long_run_and_the_same_again(self) -> None:
        hidden = replace(self.hidden, truth=self.truth)
        one = still(2.95)
        came = [cast(hidden, number, one, 0.0, 0) for number in range(1500)]
        takes = sum(event.kind in {"take", "lost"} for events in came for event in events)
        expected = 1500 * takes_of(self.truth, one, 0.0)
        self.assertAlmostEqual(takes, expected, delta=3.0 * math.sqrt(expected))
        self.assertTrue(
            all(
                events[-1].kind in {"take", "lost"} or all(e.kind in {"knock", "follow"} for e in events)
                for events in came
                if events
            )
        )
        self.assertEqual(cast(hidden, 7, one, 0.0, 0), came[7])
        # On the way up through several layers a knock may come first, and then a take.
        busy, rising = replace(hidden, truth=replace(self.truth, rate_pmin=0.9)), replace(one, depth_m=((2.95, 1.95),))
        more = [cast(busy, number, rising, 0.0, 0) for number in range(300)]
        self.assertTrue(any(len(events) > 1 and events[-1].kind in {"take", "lost"} for events in more))
        depths = [event.depth_m for events in came for event in events]
        self.assertAlmostEqual(sum(depths) / len(depths), 2.95, delta=0.05)

    def test_any_rig_becomes_what_fish_see(self) -> None:
        action = Cast(18.0, 20.0, RETRIEVES["strip-pause"])
        one, run = presentation(rig("type-3", HEAVY_NYMPH), action, scenario_of(SEED, "easy"))
        self.assertEqual((one.method, one.flies[0].name, len(one.depth_m)), ("cast", HEAVY_NYMPH.name, 1))
        self.assertAlmostEqual(one.minutes, (run.duration_s + 15.0) / 60.0, places=2)
        self.assertAlmostEqual(max(one.depth_m[0]), run.deepest_m(), delta=0.4)

    def test_most_hooked_fish_are_landed_and_as_many_lost_as_is_said(self) -> None:
        hidden = replace(self.hidden, truth=replace(self.truth, rate_pmin=0.9))
        ends = [events[-1].kind for number in range(1500) if (events := cast(hidden, number, still(2.95), 0.0, 0))]
        takes, lost = ends.count("take"), ends.count("lost")
        self.assertGreater(takes + lost, 300)
        self.assertAlmostEqual(takes / (takes + lost), LANDED, delta=3.0 * math.sqrt(LANDED * (1.0 - LANDED) / (takes + lost)))


class ToldTests(unittest.TestCase):
    def test_who_knew_takes_most_and_advice_beats_the_ladder_over_some_days(self) -> None:
        rng = seeded("some days")
        best = advice = classic = 0.0
        for _ in range(5):
            scenario = scenario_of(new_seed(rng), "easy")
            picture = read_water(read_so_far(scenario, frozenset(("lowering", "look", "sounding")), 15.0))
            table, _ = search_of(choose(picture, BOX, FREE))
            options = Table.of(table).options
            hidden = scenario.hidden
            ours = (knew(hidden, options), fished_by(hidden, by_advice(table)), fished_by(hidden, by_ladder(options)))
            best, advice, classic = best + ours[0], advice + ours[1], classic + ours[2]
        # What is measured over many days of each level stands in docs/practice.md.
        self.assertGreater(best, advice)
        self.assertGreater(advice, 0.45 * best)
        self.assertGreater(advice, classic)

    def test_a_fish_that_is_played_is_time_in_which_none_is_caught(self) -> None:
        hidden = replace(AnswerTests.hidden, truth=AnswerTests.truth)
        rate = takes_of(hidden.truth, still(2.95), 0.0) / 2.0
        self.assertAlmostEqual(knew(hidden, [still(2.95), still(0.5)]), DAY_MIN * rate / (1.0 + PLAYED_MIN * rate), places=9)

    def test_the_moments_are_those_that_decided_it(self) -> None:
        hidden = replace(AnswerTests.hidden, truth=AnswerTests.truth)
        right, wrong = still(2.95), still(0.5)

        def casts(*flies: Presentation) -> list[FishedCast]:
            return [FishedCast(3.0 * k, one, 0, takes_of(hidden.truth, one, 3.0 * k), 0) for k, one in enumerate(flies)]

        left = moments(hidden, casts(right, right, *[wrong] * 8), [right, wrong])
        said = [one.words.plain() for one in left]
        self.assertTrue(any("left the right depth, after 2 casts" in words for words in said), said)
        self.assertTrue(any("8 casts above them" in words for words in said), said)
        found = moments(hidden, casts(*[wrong] * 3, *[right] * 5), [right, wrong])
        self.assertIn("you found them", found[0].words.plain())
        self.assertEqual(found[0].cast, 3)
        empty = replace(hidden, truth=replace(hidden.truth, empty=True))
        home = [FishedCast(3.0 * k, right, 0, 0.0, 0) for k in range(5)]
        self.assertIn("Nobody was at home", moments(empty, home, [right, wrong])[0].words.plain())
        self.assertEqual(moments(hidden, [], [right]), ())

    def test_luck_is_told_in_standard_deviations(self) -> None:
        casts = [FishedCast(0.0, still(2.0), 0, 0.5, 1)] * 8
        self.assertAlmostEqual(luck_of(casts), (8 - 4) / 2.0)

    def test_the_ladder_stays_on_a_rung_that_gives_and_else_goes_on_by_its_clock(self) -> None:
        ways = [still(depth) for depth in (1.0, 2.0, 3.0)]
        choose = by_ladder(ways)

        def rung(at_min: float, *happened: dict[str, Any]) -> str:
            return choose(at_min, list(happened))[0].key

        self.assertEqual([rung(at) for at in (0.0, 14.9, 15.0, 44.0, 45.0)], [ways[i].key for i in (0, 0, 1, 2, 0)])
        gave = ({"kind": "cast", "at_min": 12.0, "fished": ways[0].key}, {"kind": "take", "at_min": 14.0})
        self.assertEqual([rung(at, *gave) for at in (15.0, 28.9, 30.0)], [ways[i].key for i in (0, 0, 2)])
        knocked = (gave[0], {"kind": "knock", "at_min": 14.0})
        self.assertEqual(rung(20.0, *knocked), ways[0].key)


class DrillTests(unittest.TestCase):
    def test_the_right_answer_has_all_the_points_and_a_wrong_one_fewer(self) -> None:
        for kind in drills.DRILL_KINDS:
            for seed in ("A", "B", "C"):
                with self.subTest(kind, seed=seed):
                    question, low, high = drills._asked(kind, seed)
                    self.assertEqual(drills.ask_drill(kind, seed), question)
                    self.assertEqual(drills.score_drill(kind, seed, 0.5 * (low + high)).points, 100)
                    away = high + 1.0
                    worse = away if kind != "line" or away < len(question.choices) else low - 1.0
                    self.assertLess(drills.score_drill(kind, seed, worse).points, 80)
        with self.assertRaises(BadInput):
            drills.ask_drill("knots", "A")
        for wrong in (-1.0, math.nan):
            with self.assertRaises(BadInput):
                drills.score_drill("depth", "A", wrong)
