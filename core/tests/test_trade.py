"""The tables of the trade, and the log that is read by them: one rule, whoever asks."""

from __future__ import annotations

import json
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.search.log import LONGEST_DAY_MIN, MOST_LINES, depth_at, read_log
from stillthread.search.thinker import Thinker
from stillthread.sinking.cast import Cast
from stillthread.sinking.hang import Hang
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.sinking.troll import Troll
from stillthread.trade.entries import DEPTH_TOLD, ENTRY_KINDS, FELT, FISH, OF_CAST, OF_LINE, OF_WATER, OUTCOMES, fish_among
from stillthread.trade.schools import SAME_M, SCHOOLS, Step
from stillthread.trade.timing import cycle_s
from tests.effort import examples
from tests.searching import hung, table

RUN = {"line": "Type 3", "kind": "cast", "set_depth_m": None, "time_s": [0.0, 20.0, 60.0],
       "flies": [{"name": "black pupa", "depth_m": [0.0, 2.0, 1.0]}, {"name": "olive pupa", "depth_m": [0.0, 1.0, 0.4]}]}  # fmt: skip
FLOAT = {"line": "Floating", "kind": "hang", "set_depth_m": 3.0, "time_s": [0.0, 180.0],
         "flies": [{"name": "unknown", "depth_m": [0.0, 3.0]}]}  # fmt: skip
TABLE: dict[str, Any] = {"options": [{"key": "known", "method": "tip"}], "flies": {"black pupa": 2}}


def read(*entries: dict[str, Any], **more: Any) -> dict[str, Any]:
    fished = {"a": RUN, "float": FLOAT, "planned": {**RUN, "key": "known"}}
    return read_log(TABLE, {"fished": fished, "entries": list(entries), **more})


class EntryTests(unittest.TestCase):
    def test_every_kind_belongs_to_a_cast_to_the_water_or_to_the_line(self) -> None:
        self.assertEqual(set(ENTRY_KINDS), OF_CAST | OF_WATER | OF_LINE)
        self.assertEqual(OF_CAST & OF_WATER, set())
        self.assertTrue(FISH < FELT < OUTCOMES < OF_CAST)
        self.assertTrue(DEPTH_TOLD < OF_WATER)

    @settings(max_examples=examples(200), deadline=None)
    @given(st.lists(st.sampled_from([kind for kind in ENTRY_KINDS if kind not in OF_LINE]), max_size=14))
    def test_the_search_counts_the_fish_that_the_log_counts(self, kinds: list[str]) -> None:
        kinds = ["cast", *kinds]
        happened = [{"kind": kind, "at_min": float(i), "fished": "a", "depth_m": 2.0} for i, kind in enumerate(kinds)]
        fished = {"a": hung(2.0)}
        day = Thinker(table([hung(2.0)])).day({"happened": happened, "fished": {}}, fished)
        self.assertEqual(sum(event.took for _, event in day.events), len(fish_among(kinds)))


class TimingTests(unittest.TestCase):
    def test_a_way_takes_as_long_in_the_plan_as_in_the_search_and_on_the_device(self) -> None:
        ways = (
            Cast(18.0, 20.0, RETRIEVES["strip-pause"]),
            Hang(set_depth_m=3.0, indicator="fixed", for_s=180.0, wind_speed_mps=2.0),
            Troll(25.0, 0.3),
        )
        for way in ways:
            run = {**RUN, "kind": way.kind, "time_s": [0.0, 90.0, 180.0]}
            told = read_log(TABLE, {"fished": {"a": run}, "entries": []})["fished"]["a"]
            self.assertAlmostEqual(60.0 * told["minutes"], way.cycle_s(180.0))
        # Ours: a tow of three minutes is gone back for, which makes 288 s of it.
        self.assertEqual((cycle_s("cast", 180.0), cycle_s("hang", 180.0), cycle_s("tow", 180.0)), (195.0, 202.0, 288.0))


class ReadLogTests(unittest.TestCase):
    def test_depth_is_the_flys_own_at_that_moment_and_of_an_untimed_take_that_of_mid_cast(self) -> None:
        told = read(
            {"kind": "cast", "at_s": 0.0, "fished": "a"},
            {"kind": "knock", "at_s": 10.0, "fished": "a", "elapsed_s": 10.0},
            {"kind": "take", "at_s": 30.0, "fished": "a", "elapsed_s": None},
            {"kind": "lost", "at_s": 40.0, "fished": "a", "elapsed_s": 40.0, "fly": 1},
        )
        self.assertEqual([line.get("depth_m") for line in told["happened"]], [None, 1.0, 1.75, 0.7])
        self.assertEqual([line.get("fly") for line in told["happened"]], [None, None, None, 1])
        self.assertEqual(depth_at(RUN, 900.0), 1.0)

    def test_what_was_told_keeps_its_depth_and_what_is_of_the_line_is_left_out(self) -> None:
        told = read(
            {"kind": "follow", "at_s": 60.0, "depth_m": 1.2, "fly_class": None},
            {"kind": "told", "at_s": 61.0, "depth_m": 4.0, "fly_class": 3},
            {"kind": "catching", "at_s": 62.0, "depth_m": 9.0},
            {"kind": "touched", "at_s": 63.0, "fished": "a", "elapsed_s": 5.0},
            {"kind": "knock", "at_s": 64.0, "fished": "nowhere", "elapsed_s": 5.0},
            {"kind": "changed", "at_s": 65.0, "stated": [0.5, 0.5], "wanted": [1.0]},
        )
        self.assertEqual(
            told["happened"],
            [
                {"at_min": 1.0, "kind": "follow", "depth_m": 1.2},
                {"at_min": 61.0 / 60.0, "kind": "told", "depth_m": 4.0, "fly_class": 3},
                {"at_min": 62.0 / 60.0, "kind": "catching"},
                {"at_min": 65.0 / 60.0, "kind": "changed", "stated": [0.5, 0.5], "wanted": [1.0]},
            ],
        )

    def test_the_clock_never_goes_back_and_a_day_is_bounded(self) -> None:
        told = read(*({"kind": "cast", "at_s": at, "fished": "a"} for at in (600.0, 60.0, 10.0**9)), now_s=30.0)
        self.assertEqual([line["at_min"] for line in told["happened"]], [10.0, 10.0, LONGEST_DAY_MIN])
        self.assertEqual(told["now_min"], LONGEST_DAY_MIN)
        many = read(*({"kind": "cast", "at_s": float(i), "fished": "a"} for i in range(MOST_LINES + 5)))
        self.assertEqual(len(many["happened"]), MOST_LINES)
        self.assertAlmostEqual(many["happened"][0]["at_min"], 5.0 / 60.0)

    def test_what_is_on_the_table_is_the_tables_own_and_the_rest_is_by_its_run(self) -> None:
        told = read(now="a", school="stay", rods=2)
        self.assertEqual(told["fished"]["planned"], TABLE["options"][0])
        self.assertEqual((told["now"], told["school"], told["rods"]), ("a", "stay", 2))
        own = told["fished"]["a"]
        self.assertEqual([fly["fly_class"] for fly in own["flies"]], [2, 1])
        self.assertEqual((own["method"], own["line"], own["float_m"]), ("cast", "Type 3", None))
        self.assertEqual(told["fished"]["float"]["float_m"], 3.0)
        json.dumps(told)
        long = {**RUN, "time_s": [float(i) for i in range(500)], "flies": [{"name": "x", "depth_m": [-0.1] * 500}]}
        thinned = read_log(TABLE, {"fished": {"a": long}, "entries": []})["fished"]["a"]
        self.assertLessEqual(len(thinned["time_s"]), 42)
        self.assertEqual((thinned["time_s"][-1], min(thinned["depth_m"][0])), (499.0, 0.0))


class SchoolTests(unittest.TestCase):
    STEPS = tuple(
        Step(deeper, same_flies=flies, same_line=line, same=False, still=still)
        for deeper in (-1.0, 0.0, 1.0) for flies in (True, False) for line in (True, False) for still in (True, False)
    )  # fmt: skip

    def kept(self, school: str, *, searching: bool = True) -> list[Step]:
        return [self.STEPS[i] for i in SCHOOLS[school].kept(self.STEPS, searching=searching)]

    def test_each_looks_at_its_own_changes_first(self) -> None:
        self.assertEqual(self.kept("best"), list(self.STEPS))
        self.assertTrue(all(step.same_flies for step in self.kept("depth-first")))
        self.assertTrue(all(step.same_depth and not step.same_flies for step in self.kept("fly-first")))
        self.assertEqual({step.deeper_m for step in self.kept("bottom-up")}, {-1.0})
        self.assertEqual({step.deeper_m for step in self.kept("top-down")}, {1.0})
        far = Step(1.5, same_flies=True, same_line=True, same=False, still=False)
        self.assertFalse(SCHOOLS["top-down"].next(far) or SCHOOLS["bottom-up"].next(far))
        self.assertTrue(all(step.still for step in self.kept("static")))
        self.assertTrue(all(not step.still for step in self.kept("moved")))
        self.assertTrue(all(step.same_line for step in self.kept("stay")))
        self.assertTrue(all(self.kept(school) for school in SCHOOLS))
        self.assertEqual(float(SAME_M), 0.35)

    def test_once_something_came_only_what_a_school_holds_of_still_and_moved_flies_counts(self) -> None:
        for school in ("depth-first", "fly-first", "bottom-up", "top-down"):
            self.assertEqual(self.kept(school, searching=False), list(self.STEPS), school)
        self.assertTrue(all(step.still for step in self.kept("static", searching=False)))
        self.assertTrue(all(not step.still for step in self.kept("moved", searching=False)))
        self.assertEqual(self.kept("stay", searching=False), [])

    def test_they_order_depths_and_tip_the_scales_as_they_believe(self) -> None:
        self.assertEqual(SCHOOLS["bottom-up"].in_order([2.0, 3.0, 1.0]), [3.0, 2.0, 1.0])
        self.assertEqual(SCHOOLS["top-down"].in_order([2.0, 3.0, 1.0]), [1.0, 2.0, 3.0])
        self.assertEqual(SCHOOLS["best"].in_order([2.0, 3.0, 1.0]), [2.0, 3.0, 1.0])
        leans = {key: (one.lean(still=True), one.lean(still=False)) for key, one in SCHOOLS.items()}
        self.assertEqual((leans.pop("static"), leans.pop("moved")), ((1.25, 1.0), (1.0, 1.25)))
        self.assertEqual(set(leans.values()), {(1.0, 1.0)})
        self.assertEqual([key for key, one in SCHOOLS.items() if one.flies_first], ["fly-first"])
