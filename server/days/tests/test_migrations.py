"""A log of an earlier making keeps every row when the store is moved on, and back."""

from __future__ import annotations

import uuid
from datetime import datetime, timezone
from typing import Any

from common.speeds import in_mps
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase

from accounts.services import sign_up
from advice.condition_schemas import ConditionsIn
from advice.payloads import conditions_of
from demo.season import BRENNHOLT
from project.tests.people import LEADER, LINE, PASSWORD
from stillthread.api import read_water
from waters.models import Water
from waters.services import save_water

AT = datetime(2026, 7, 14, 9, tzinfo=timezone.utc)
BEFORE, NOW = [("days", "0003_other_ways")], [("days", "0006_day_keeps_its_conditions")]
DAY: dict[str, Any] = {
    "at": AT, "utc_offset_min": 120, "species": "brown", "wind_speed_ms": 2.0, "wind_from_deg": 10.0, "cloud_fraction": 0.1,
    "secchi_m": 3.0, "bottom_depth_m": 5.0, "far_bottom_depth_m": 7.0, "weed_m": 0.5, "signs": ["nothing"],
    "sample": {"items": [{"food_key": "midge-pupa", "count": 3, "size_mm": None, "colour": ""}], "age_h": 1.0},
    "oxygen": [{"depth_m": 2.0, "oxygen_mgl": 9.0}], "read_at_local": "2026-07-14T10:30",
    "place": {"latitude_deg": 61.2, "longitude_deg": 9.4}, "earlier": [],
}  # fmt: skip
HOW = ("cast_m", "count_s", "retrieve_key", "retrieve_mps", "handling", "hang", "tow")


class MigrationTests(TransactionTestCase):
    """What was fished as a cast, under a float and in tow, each as it was stored before."""

    def tearDown(self) -> None:
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())

    def moved_to(self, target: list[tuple[str, str]]) -> Any:
        executor = MigrationExecutor(connection)
        executor.migrate(target)
        return MigrationExecutor(connection).loader.project_state(target).apps

    def test_every_presentation_becomes_one_action_and_comes_back_as_it_was(self) -> None:
        owner = sign_up(username="angler", password=PASSWORD)
        before_apps = self.moved_to(BEFORE)
        old, days = before_apps.get_model("days", "Presentation"), before_apps.get_model("days", "Day")
        water = save_water(water=Water(owner=owner), changes=dict(BRENNHOLT))
        day = days.objects.create(owner_id=owner.pk, water_id=water.pk, **DAY)
        day.readings.create(depth_m=0.0, water_c=14.0)
        day.readings.create(depth_m=6.0, water_c=11.5, trusted=True)
        kept: dict[str, Any] = {"day_id": day.pk, "started_at": AT, "line": LINE, "leader": LEADER, "flies": [], "low_m": 1.0,
                                "high_m": 2.0, "path_s": [0.0], "path_depth_m": [0.0], "path_spread_m": [0.0]}  # fmt: skip
        usual = {"slack": 0.0, "loose": False, "tip_ms": 0.2}
        rows = {
            "cast": {"cast_m": 16.0, "count_s": 12.0, "retrieve_key": "strip-pause", "retrieve_mps": 0.2, "handling": usual},
            "hang": {"cast_m": 9.0, "count_s": 0.0, "retrieve_key": "static", "retrieve_mps": 0.0, "handling": {},
                     "hang": {"set_depth_m": 3.0, "indicator": "sliding", "drift_s": 90.0, "twitch_every_s": None}},
            "tow": {"cast_m": 18.0, "count_s": 0.0, "retrieve_key": "static", "retrieve_mps": 0.0, "handling": {},
                    "tow": {"out_m": 25.0, "speed_ms": 0.3}},
        }  # fmt: skip
        ids = {kind: old.objects.create(id=uuid.uuid4(), **kept, **row).pk for kind, row in rows.items()}
        before = {kind: {name: getattr(old.objects.get(pk=pk), name) for name in HOW} for kind, pk in ids.items()}
        now = self.moved_to(NOW)
        new = now.get_model("days", "Presentation")
        found = {kind: new.objects.get(pk=pk).action for kind, pk in ids.items()}
        self.assertEqual(
            found["cast"],
            {"kind": "cast", "cast_m": 16.0, "count_s": 12.0, "retrieve_key": "strip-pause", "retrieve_mps": 0.2, **usual},
        )
        self.assertEqual((found["hang"]["set_depth_m"], found["hang"]["indicator"]), (3.0, "sliding"))
        self.assertEqual((found["hang"]["drift_s"], found["hang"]["distance_m"]), (90.0, 9.0))
        self.assertEqual(found["tow"], {"kind": "tow", "out_m": 25.0, "tow_ms": 0.3, "for_s": 180.0})
        kept_as = new.objects.get(pk=ids["cast"])
        self.assertEqual((kept_as.high_m, kept_as.conditions["water_id"]), (2.0, water.pk))
        # What a day was read as is what its presentations were fished under.
        read = read_water(conditions_of(owner, ConditionsIn.model_validate(in_mps(kept_as.conditions)), logged=True))
        self.assertEqual((read.conditions.at, read.conditions.readings[0].water_c, read.conditions.secchi_m), (AT, 14.0, 3.0))
        told = ConditionsIn.model_validate(in_mps(now.get_model("days", "Day").objects.get().conditions))
        self.assertEqual((told.at_local, told.species, told.weed_m), (datetime(2026, 7, 14, 11), "brown", 0.5))
        self.assertEqual(conditions_of(owner, told, logged=True).at, AT)
        self.assertEqual([(r.depth_m, r.water_c, r.trusted) for r in told.readings], [(0.0, 14.0, False), (6.0, 11.5, True)])
        again_apps = self.moved_to(BEFORE)
        again, day = again_apps.get_model("days", "Presentation"), again_apps.get_model("days", "Day").objects.get()
        self.assertEqual({name: getattr(day, name) for name in DAY}, DAY)
        self.assertEqual(
            [(r.depth_m, r.water_c, r.trusted) for r in day.readings.all()], [(0.0, 14.0, False), (6.0, 11.5, True)]
        )
        self.assertEqual(
            {kind: {name: getattr(again.objects.get(pk=pk), name) for name in HOW} for kind, pk in ids.items()}, before
        )
