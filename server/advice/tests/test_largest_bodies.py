"""The largest questions that the contract allows: each is answered, and none takes more than a moment of work.

How long each takes on a free machine is measured in the soak (docs/reliability.md). The bound here is one of processor time of
this thread, several times what was measured, so that a busy machine does not fail it: what was once wrong took 100 s.
"""

from __future__ import annotations

import importlib
import time
import uuid
from typing import Any

from project.tests.people import CAST, FLY, LEADER, LINE, PeopleTestCase, conditions

MOST_WORK_S = 5.0


def alternating(count: int, deepest_m: float = 30.0) -> list[dict[str, Any]]:
    """Return readings that are all at odds with their neighbours: the worst for whoever looks for the odd ones."""
    return [{"depth_m": round(deepest_m * i / count, 3), "water_c": 18.0 if i % 2 else 6.0} for i in range(count)]


def largest(water: Any) -> dict[str, Any]:
    """Return conditions with every list as long as the contract allows."""
    return conditions(
        water, readings=alternating(2000), bottom_depth_m=30.0,
        oxygen=[{"depth_m": i * 0.15, "oxygen_mgl": 9.0 - i % 5} for i in range(200)],
        earlier=[{"at_local": f"2026-07-14T0{i % 9}:1{i // 9}", "readings": alternating(2000)} for i in range(12)],
        signs=[], sample={"items": [{"food_key": key, "count": 3} for key in ("midge-pupa", "midge-larva")]},
    )  # fmt: skip


def longest_cast() -> dict[str, Any]:
    sections = [{"length_m": 0.8, "diameter_m": 0.0002 + 0.00001 * i, "material": "nylon"} for i in range(12)]
    droppers = [{"fly": FLY, "above_point_m": a, "dropper_m": 0.1} for a in (1.0, 2.0)]
    rig = {"line": LINE, "leader": {**LEADER, "sections": sections}, "flies": [{"fly": FLY}, *droppers]}
    return {"rig": rig, "action": {**CAST, "cast_m": 40.0, "count_s": 300.0}}


class LargestBodyTests(PeopleTestCase):
    def ask(self, path: str, body: dict[str, Any], method: str = "post") -> None:
        begun = time.thread_time()
        answer = getattr(self, method)(path, body)
        took = time.thread_time() - begun
        self.assertIn(answer.status_code, {200, 201}, answer.content[:300])
        self.assertLess(took, MOST_WORK_S, path)

    def test_each_is_answered_in_a_moment(self) -> None:
        read = largest(self.water)
        hours = [
            {
                "at": f"2026-07-{14 + i // 24}T{i % 24:02d}:00:00Z",
                "wind_speed_mps": 4,
                "wind_from_deg": 200,
                "cloud_fraction": 0.3,
            }
            for i in range(48)
        ]
        fished, day = longest_cast(), f"/api/days/{uuid.uuid4()}"
        self.ask("/api/pictures", read)
        self.ask("/api/day-strips", {"conditions": read, "forecast": hours})
        self.ask("/api/choices", {"conditions": read})
        self.ask("/api/starts", read)
        self.ask("/api/simulations", {"conditions": read, "fished": fished})
        self.ask("/api/weighings", {"choices": {"conditions": read}, "method_key": "sinker", "fished": fished})
        bottom = [{"distance_m": float(i), "depth_m": 100.0} for i in range(200)]
        for action in (
            fished["action"],
            {"kind": "tow", "out_m": 100.0, "tow_mps": 0.3, "for_s": 600.0},
            {"kind": "hang", "set_depth_m": 9.0, "indicator": "fixed", "drift_s": 600.0, "distance_m": 20.0, "diameter_m": 0.019,
             "twitch_every_s": 2.0},
        ):  # fmt: skip
            self.ask("/api/runs", {"bottom": bottom, "fished": {**fished, "action": action}})
        self.ask(day, read, "put")
        begun = {**fished, "started_at": "2026-07-14T10:00:00Z", "long_leader_ok": True, "conditions": read}
        self.ask(f"{day}/presentations/{uuid.uuid4()}", begun, "put")

    def test_odd_readings_are_looked_for_once_in_a_day(self) -> None:
        outliers = importlib.import_module("stillthread.water.outliers")
        outliers._flagged.cache_clear()
        self.ask("/api/day-strips", {"conditions": largest(self.water)})
        self.assertEqual(outliers._flagged.cache_info().misses, 1)
