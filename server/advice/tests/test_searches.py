"""The table that goes to the water with a plan, and the moves that a script may ask for."""

from __future__ import annotations

import time
import uuid
from datetime import timedelta
from typing import Any

from project.tests.people import FLY, THEN, PeopleTestCase, conditions, presentation
from stillthread.api import think

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

    def logged(self, kind: str, minute: float, **said: Any) -> None:
        at = (THEN + timedelta(minutes=minute)).isoformat()
        path = f"/api/days/{self.day_id}/entries/{uuid.uuid4()}"
        body = {**self.entry(kind=kind, at=at, cast_elapsed_s=None), **said}
        answer = self.put(path, body)
        self.assertEqual(answer.status_code, 201, answer.content[:300])

    def test_without_a_log_the_day_so_far_is_its_own(self) -> None:
        table = self.table()
        path = f"/api/days/{self.day_id}/moves"
        before = self.post(path, {"table": table}).json()
        self.assertEqual(before["casts"], 1)  # the take that every test's day has
        for i in range(8):
            self.logged("cast", 10.0 + 3 * i, toward=i % 5 - 2, far=i > 4)
            self.logged("nothing", 12.0 + 3 * i)
        self.logged("told", 40.0, depth_m=1.0, fly_class=2)
        self.logged("catching", 41.0)
        after = self.post(path, {"table": table}).json()
        self.assertEqual(after["casts"], 9)
        self.assertEqual(sum(one["casts"] for one in after["fan"]["covered"]), 8)
        self.assertLess(after["empty"], before["empty"] + 0.05)
        self.assertEqual(self.post(path, {"table": table}).json(), after)
        self.logged("place", 60.0)
        moved = self.post(path, {"table": table}).json()
        self.assertEqual(sum(one["casts"] for one in moved["fan"]["covered"]), 0)

    def test_what_is_seen_or_told_has_its_depth_and_nothing_else_has(self) -> None:
        for body, field in (
            ({"kind": "seen"}, "depth_m"), ({"kind": "take", "depth_m": 2.0}, "depth_m"),
            ({"kind": "seen", "depth_m": 2.0, "fly_class": 1}, "fly_class"),
        ):  # fmt: skip
            answer = self.put(f"/api/days/{self.day_id}/entries/{uuid.uuid4()}", self.entry(**body))
            self.assertEqual((answer.status_code, list(answer.json()["fields"])), (422, [field]))
        self.logged("follow", 5.0, depth_m=2.5)
        kept = self.client.get(f"/api/days/{self.day_id}/entries").json()["items"][-1]
        self.assertEqual((kept["kind"], kept["depth_m"], kept["depth_low_m"]), ("follow", 2.5, 2.2))

    def test_what_a_change_costs_is_learnt_from_the_times_of_the_log(self) -> None:
        self.assertEqual(self.table()["costs"]["fly_min"], 2.5)
        at, tied = 20.0, 0
        for i in range(1, 9):
            self.logged("nothing", at)
            at += 7.0  # he ties slowly
            self.presentation_id, tied = uuid.uuid4(), i
            other = {**FLY, "name": f"Fly {tied}"}
            started = presentation(started_at=(THEN + timedelta(minutes=at - 0.5)).isoformat())
            started["rig"] = {**started["rig"], "flies": [{**started["rig"]["flies"][0], "fly": other}]}
            path = f"/api/days/{self.day_id}/presentations/{self.presentation_id}"
            self.assertEqual(self.put(path, started).status_code, 201)
            self.logged("cast", at)
            at += 3.0
        costs = self.table()["costs"]
        self.assertTrue(4.5 < costs["fly_min"] < 6.5, costs)
        self.assertEqual((costs["line_min"], costs["float_min"]), (6.0, 1.0))
