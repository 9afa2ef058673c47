"""The table that goes to the water with a plan, and the moves that a script may ask for."""

from __future__ import annotations

import time
from typing import Any

from project.tests.people import PeopleTestCase, conditions
from stillthread.search.day import think

MOST_BYTES = 400_000


class SearchTests(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.log_day()

    def table(self) -> dict[str, Any]:
        answer = self.post("/api/searches", {"conditions": conditions(self.water)})
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        found: dict[str, Any] = answer.json()
        # Each presentation comes with what has to be sent to fish it.
        self.assertEqual(set(found["fish"]), {one["key"] for one in found["table"]["options"]})
        table: dict[str, Any] = found["table"]
        return table

    def moves(self, table: dict[str, Any], log: dict[str, Any]) -> Any:
        return self.post(f"/api/days/{self.day_id}/moves", {"table": table, "log": log})

    def log(self, one: dict[str, Any], casts: int) -> dict[str, Any]:
        happened: list[dict[str, Any]] = []
        for i in range(casts):
            happened.append({"kind": "cast", "fished": "a", "at_min": 3.0 * i})
            depth = one["depth_m"][0][len(one["time_s"]) // 2]
            happened.append(
                {"kind": "knock" if i % 7 == 3 else "nothing", "fished": "a", "at_min": 3.0 * i + 2.0, "depth_m": depth}
            )
        return {"fished": {"a": one}, "happened": happened, "now_min": 3.0 * casts}

    def test_the_table_is_small_holds_every_method_and_begins_with_the_plan(self) -> None:
        table = self.table()
        self.assertLess(len(self.post("/api/searches", {"conditions": conditions(self.water)}).content), MOST_BYTES)
        options = table["options"]
        self.assertTrue(40 <= len(options) <= 120, len(options))
        plan = self.post("/api/choices", {"conditions": conditions(self.water)}).json()["ranked"]
        self.assertEqual({one["method"]["key"] for one in plan}, {one["method"] for one in options})
        first = plan[0]["method"]["key"]
        best = max(options, key=lambda one: one["share"])
        self.assertGreater(max(one["share"] for one in options if one["method"] == first), 0.8 * best["share"])
        # Beside each best stand others: counts or depths, and other classes of fly on the same path.
        classes = {tuple(fly["fly_class"] for fly in one["flies"]) for one in options if one["method"] == first}
        self.assertGreater(len(classes), 1)
        self.assertEqual(len({one["key"] for one in options}), len(options))
        self.assertGreater(table["day_min"], 300.0)
        self.assertTrue(all(-9.0 < one["deeper_m"] < 9.0 for one in table["shift"]))

    def test_worked_out_beforehand_or_on_the_spot_the_exposures_are_the_same(self) -> None:
        table = self.table()
        bare = {**table, "options": [{**one, "met": {}} for one in table["options"][:12]]}
        short = {**table, "options": table["options"][:12]}
        log = self.log(table["options"][0], 12)
        with_met, without = think(short, log), think(bare, log)
        for a, b in zip(with_met["ridge"], without["ridge"], strict=True):
            self.assertAlmostEqual(a["chance"], b["chance"], delta=1e-3)

    def test_a_script_is_told_what_the_device_would_say_and_goes_on_from_what_it_said(self) -> None:
        table = self.table()
        for casts in (0, 5, 6, 14):
            log = self.log(table["options"][0], casts)
            answer = self.moves(table, log)
            self.assertEqual(answer.status_code, 200, answer.content[:300])
            told = answer.json()
            alone = think(table, log)
            self.assertEqual(told["casts"], casts)
            self.assertAlmostEqual(sum(one["chance"] for one in told["ridge"]), 1.0, places=9)
            for a, b in zip(told["ridge"], alone["ridge"], strict=True):
                self.assertAlmostEqual(a["chance"], b["chance"], places=9)
            self.assertEqual(told["move"]["best"]["key"], alone["move"]["best"]["key"])
            self.assertTrue(told["move"]["words"])

    def test_a_log_or_table_that_cannot_be_is_refused_with_what_is_wrong(self) -> None:
        table = self.table()
        table["options"] = table["options"][:2]
        one = table["options"][0]
        grid = table["grid"]
        for wrong_table, wrong_log, words in (
            (table, {"happened": [{"kind": "cast", "at_min": 1, "fished": "b"}]}, "nothing that was fished"),
            (table, {"happened": [{"kind": "seen", "at_min": 1}]}, "needs a depth"),
            (
                table,
                {"happened": [{"kind": "seen", "at_min": 2, "depth_m": 1}, {"kind": "place", "at_min": 1}]},
                "back in time",
            ),
            ({**table, "grid": {**grid, "stated": [1.0]}}, {}, "grid"),
            ({**table, "options": [{**one, "met": {"1": [[1, 2]]}}]}, {}, "does not fit"),
            ({**table, "options": [{**one, "time_s": [0, 1]}]}, {}, "a depth for every time"),
            ({**table, "classes": ["one"]}, {}, "every class"),
        ):
            with self.subTest(words):
                refused = self.moves(wrong_table, wrong_log)
                self.assertEqual(refused.status_code, 422)
                self.assertIn(words, refused.json()["detail"])

    def test_what_would_be_worked_out_for_minutes_is_refused_and_the_worst_that_is_allowed_is_short(self) -> None:
        table = self.table()
        names = [{"name": f"fly {k}", "fly_class": k} for k in (1, 2, 3, 4)]
        path = [0.0 if i % 2 else 2.0 for i in range(60)]
        bare = {"key": "own 0", "method": "cast", "line": "own", "flies": names, "minutes": 3.0,
                "time_s": [float(i) for i in range(60)], "depth_m": [[z + 0.3 * k for z in path] for k in range(4)]}  # fmt: skip
        deep = {**bare, "depth_m": [[40.0 * z for z in path]] * 4}
        refused = self.moves(table, {"fished": {"a": deep}})
        self.assertEqual((refused.status_code, "up and down" in refused.json()["detail"]), (422, True))
        many = {f"{k}": {**bare, "key": f"own {k}"} for k in range(7)}
        self.assertIn("without met", self.moves(table, {"fished": many}).json()["detail"])
        happened = [
            {"kind": kind, "fished": str(i % 6), "at_min": float(i), "depth_m": 2.0}
            for i in range(60)
            for kind in ("cast", "knock", "nothing")
        ]
        begun = time.thread_time()
        answer = self.moves(table, {"fished": {k: many[k] for k in "012345"}, "happened": happened})
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        # Processor time: some seconds where minutes were.
        self.assertLess(time.thread_time() - begun, 20.0)
