"""Lines are timed: trials kept once, strays flagged, the rate used by every simulation and given back."""

from __future__ import annotations

import uuid
from typing import Any

from box.models import Line
from project.tests.people import FLY, LEADER, THEN, PeopleTestCase, conditions, presentation


class LineTests(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.line = Line.objects.filter(owner=self.angler, class_key="type-3")[0]
        self.path = f"/api/lines/{self.line.pk}"

    def time(self, elapsed_s: float, **changes: Any) -> Any:
        body = {
            "at": THEN.isoformat(),
            "depth_m": 4.0,
            "elapsed_s": elapsed_s,
            "water_c": 10.0,
            "known_by": "sounder",
            **changes,
        }
        return self.put(f"{self.path}/trials/{uuid.uuid4()}", body)

    def rate(self) -> dict[str, Any]:
        return dict(self.client.get(f"{self.path}/rate").json())

    def test_trials_are_kept_once_and_what_is_none_is_refused(self) -> None:
        trial = f"{self.path}/trials/{uuid.uuid4()}"
        body = {"at": THEN.isoformat(), "depth_m": 4.0, "elapsed_s": 60.0, "water_c": 10.0, "known_by": "mark"}
        self.assertEqual([self.put(trial, body).status_code for _ in range(2)], [201, 200])
        self.assertEqual(self.client.get(f"{self.path}/trials").json()["count"], 1)
        for wrong in ({"elapsed_s": 0.1}, {"depth_m": 400.0}, {"known_by": "guess"}, {"water_c": None}):
            self.assertEqual(self.put(trial, {**body, **wrong}).status_code, 422, wrong)
        self.assertEqual(self.client.delete(trial).status_code, 204)
        self.assertEqual(self.client.get(f"{self.path}/trials").json()["count"], 0)
        floating = Line.objects.filter(owner=self.angler, class_key="floating")[0]
        self.assertEqual(self.client.get(f"/api/lines/{floating.pk}/rate").status_code, 422)
        other = Line.objects.filter(owner=self.angler).exclude(pk=self.line.pk)[0]
        self.assertEqual(self.put(trial.replace(self.path, f"/api/lines/{other.pk}"), body).status_code, 409)

    def test_three_trials_make_a_rate_that_simulations_use_until_it_is_given_back(self) -> None:
        label = self.line.sink_rate_mps
        for seconds in (66.0, 67.0):
            self.time(seconds)
        self.assertEqual(self.put(f"{self.path}/rate", {}).status_code, 409)
        for seconds in (64.0, 20.0):
            self.time(seconds)
        found = self.rate()
        self.assertTrue(found["low_mps"] < 4.0 / 66.0 < found["high_mps"])
        self.assertEqual([one["elapsed_s"] for one in found["timed"] if one["stray"] > 0.5], [20.0])
        before = self.spread_of_the_line()
        self.assertTrue(self.put(f"{self.path}/rate", {}).json()["used"])
        line = self.client.get("/api/lines").json()["items"]
        mine = next(one for one in line if one["id"] == self.line.pk)
        self.assertEqual((mine["label_mps"], mine["calibrated"]), (label, True))
        self.assertAlmostEqual(mine["sink_rate_mps"], found["rate_mps"], places=6)
        self.assertLess(self.spread_of_the_line(), before)
        self.assertEqual(self.client.delete(f"{self.path}/rate").status_code, 204)
        self.line.refresh_from_db()
        self.assertEqual((self.line.sink_rate_mps, self.line.label_mps, self.line.rate_spread), (label, None, None))

    def spread_of_the_line(self) -> float:
        self.line.refresh_from_db()
        named = ("name", "class_key", "number", "sink_rate_mps", "rate_spread")
        rig = {"line": {name: getattr(self.line, name) for name in named}, "leader": LEADER, "flies": [{"fly": FLY}]}
        body = {"bottom": [{"distance_m": 0, "depth_m": 12}], "fished": presentation(rig=rig, action={"count_s": 60})}
        fly = self.post("/api/runs", body).json()["flies"][0]
        return float(max(deep - shallow for shallow, deep in zip(fly["shallow_m"], fly["deep_m"], strict=True)))

    def test_a_cast_that_touched_the_bottom_speaks_for_its_line(self) -> None:
        self.log_day()
        day = f"/api/days/{self.day_id}"
        named = ("name", "class_key", "number", "sink_rate_mps")
        rig = {"line": {name: getattr(self.line, name) for name in named}, "leader": LEADER, "flies": [{"fly": FLY}]}
        shallow = conditions(self.water, bottom_depth_m=3.0, readings=[{"depth_m": 0.0, "water_c": 14.0}])
        pid = uuid.uuid4()
        body = presentation(
            rig=rig, action={"count_s": 90}, started_at=THEN.isoformat(), conditions=shallow, long_leader_ok=True
        )
        self.assertEqual(self.put(f"{day}/presentations/{pid}", body).status_code, 201)
        for seconds in (55.0, 58.0, 56.0):
            entry = {"presentation_id": str(pid), "kind": "touched", "at": THEN.isoformat(), "cast_elapsed_s": seconds}
            self.assertEqual(self.put(f"{day}/entries/{uuid.uuid4()}", entry).status_code, 201)
        found = self.rate()
        self.assertEqual([one["known_by"] for one in found["timed"]], ["fished"] * 3)
        self.assertTrue(found["enough"])
        self.assertNotAlmostEqual(found["rate_mps"], found["label_mps"], places=4)
        self.assertEqual(self.client.get(day).json()["counts"]["touched"], 3)
