"""The log keeps what happened, once, with where the fly was; and takes nothing that did not."""

from __future__ import annotations

import uuid
from datetime import datetime, timedelta
from typing import Any

from django.db import IntegrityError, transaction
from django.utils import timezone

from advice.payloads import local_to_utc
from days.models import Day, Entry, Presentation
from demo.season import BRENNHOLT
from project.tests.people import FLY, LEADER, LINE, THEN, PeopleTestCase, conditions, presentation
from waters.models import Water
from waters.services import save_water


class LogTests(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.log_day()
        self.day = f"/api/days/{self.day_id}"

    def put_entry(self, **changes: object) -> tuple[int, dict[str, object]]:
        answer = self.put(f"{self.day}/entries/{uuid.uuid4()}", self.entry(**changes))
        return answer.status_code, answer.json()

    def test_a_resend_stores_once_and_changes_nothing(self) -> None:
        for path, body in (
            (self.day, conditions(self.water, wind_speed_mps=9)),
            (f"{self.day}/presentations/{self.presentation_id}", presentation({"count_s": 5}, started_at=THEN.isoformat())),
            (f"{self.day}/entries/{self.entry_id}", self.entry(kind="lost")),
        ):
            self.assertEqual(self.put(path, body).status_code, 200)
        self.assertEqual((Day.objects.count(), Presentation.objects.count(), Entry.objects.count()), (1, 1, 1))
        self.assertEqual(self.client.get(self.day).json()["conditions"]["wind_speed_mps"], 4.0)
        self.assertEqual(Entry.objects.get().kind, "take")

    def test_an_entry_keeps_the_depth_the_fly_had_at_that_moment(self) -> None:
        stored = Presentation.objects.get()
        _, during = self.put_entry(cast_elapsed_s=stored.path_s[60])
        middle = (float(str(during["depth_low_m"])) + float(str(during["depth_high_m"]))) / 2
        self.assertAlmostEqual(middle, stored.path_depth_m[60], delta=0.03)
        _, whole = self.put_entry(cast_elapsed_s=None)
        self.assertAlmostEqual(float(str(whole["depth_low_m"])), stored.low_m, delta=0.01)
        self.assertAlmostEqual(float(str(whole["depth_high_m"])), stored.high_m, delta=0.01)

    def test_what_came_to_which_fly_is_as_deep_as_that_fly_and_may_be_told_afterwards(self) -> None:
        floater = {**LINE, "class_key": "floating", "sink_rate_mps": 0.0}
        heavy = {**FLY, "bead": "tungsten", "bead_mm": 3.0}
        team = [{"fly": heavy}, {"fly": FLY, "above_point_m": 1.0, "dropper_m": 0.12}]
        hang = {"kind": "hang", "set_depth_m": 3.0, "drift_s": 90.0}
        status, hung, hung_id = self.fish(action=hang, rig={"line": floater, "leader": LEADER, "flies": team})
        self.assertEqual(status, 201, hung)

        def take(**more: object) -> dict[str, Any]:
            status, entry = self.put_entry(presentation_id=hung_id, cast_elapsed_s=60.0, **more)
            self.assertEqual(status, 201, entry)
            return entry

        point, top = take(fly=0, phase="rest"), take(fly=1)
        self.assertAlmostEqual(float(point["depth_low_m"]) - float(top["depth_low_m"]), 1.0, delta=0.02)
        self.assertEqual((point["fly"], point["phase"], top["fly"], top["phase"]), (0, "rest", 1, None))
        unsaid = take()
        self.assertEqual((unsaid["fly"], unsaid["depth_low_m"]), (None, point["depth_low_m"]))
        told = self.client.patch(
            f"{self.day}/entries/{unsaid['id']}", {"fly": 1, "phase": "lift"}, content_type="application/json"
        ).json()
        self.assertEqual((told["fly"], told["phase"], told["depth_low_m"]), (1, "lift", top["depth_low_m"]))
        wrong: dict[str, dict[str, object]] = {
            "fly": {"fly": 2},
            "phase": {"kind": "cast", "phase": "drop"},
            "colour": {"colour": "black"},
        }
        for field, said in (*wrong.items(), ("fly", {"kind": "nothing", "fly": 0})):
            status, problem = self.put_entry(presentation_id=hung_id, **said)
            self.assertEqual((status, dict(problem["fields"]).keys()), (422, {field}), problem)  # type: ignore[call-overload]

    def test_another_rods_fish_is_told_with_his_fly_and_a_refusal_with_its_depth(self) -> None:
        told = {"kind": "told", "depth_m": 7.0, "fly_class": 3, "colour": "black", "hook_size": 8, "pace": "slow",
                "cast_elapsed_s": None}  # fmt: skip
        status, entry = self.put_entry(**told)
        self.assertEqual((status, {name: entry[name] for name in told}), (201, told))
        status, entry = self.put_entry(kind="refused", depth_m=0.1, fly=0, phase="rest", cast_elapsed_s=None)
        self.assertEqual((status, entry["kind"], entry["fly"]), (201, "refused", 0))

    def fish(self, **changes: Any) -> tuple[int, dict[str, Any], str]:
        path = f"{self.day}/presentations/{uuid.uuid4()}"
        answer = self.put(path, presentation(**{"started_at": THEN.isoformat(), "long_leader_ok": True, **changes}))
        return answer.status_code, answer.json(), path.rsplit("/", 1)[1]

    def test_a_float_and_a_tow_are_logged_as_what_they_are_with_the_depths_of_their_own_run(self) -> None:
        hang = {"kind": "hang", "set_depth_m": 3.0, "indicator": "quick-release", "drift_s": 90.0, "twitch_every_s": None,
                "diameter_m": 0.019, "distance_m": 8.0, "off_wind_deg": 90.0, "mends_s": [20.0, 40.0], "recasts": False,
                "fed_mps": 0.02}  # fmt: skip
        floater = {**LINE, "class_key": "floating", "sink_rate_mps": 0.0}
        heavy = {"rig": {"line": floater, "leader": LEADER, "flies": [{"fly": {**FLY, "bead": "tungsten", "bead_mm": 3.0}}]}}
        status, hung, hung_id = self.fish(action=hang, **heavy)
        self.assertEqual((status, hung["action"]), (201, hang))
        self.assertTrue(2.0 < hung["high_m"] <= 3.0, hung)
        stored = Presentation.objects.get(pk=hung_id)
        self.assertEqual((str(stored), stored.path_s[-1]), ("float at 3 m", 90.0))
        tow = {"kind": "tow", "out_m": 25.0, "tow_mps": 0.3, "for_s": 180.0}
        status, towed, towed_id = self.fish(action=tow)
        self.assertEqual((status, towed["action"]), (201, tow))
        # A type 3 at 0.3 m/s rides at a shallow angle: theory's depth for 25 m of it is some 4 to 7 m, and the day is 9 m deep.
        self.assertTrue(2.0 < towed["high_m"] < 9.0, towed)
        self.assertEqual(self.client.get(f"{self.day}/presentations").json()["count"], 3)
        _, knock = self.put_entry(presentation_id=hung_id, kind="knock", cast_elapsed_s=85.0)
        self.assertTrue(2.4 < float(str(knock["depth_low_m"])) < float(str(knock["depth_high_m"])) <= 3.2, knock)
        # A tow goes on past the simulated minutes: it holds its depth.
        depths = [self.put_entry(presentation_id=towed_id, cast_elapsed_s=s)[1]["depth_low_m"] for s in (179.0, 3000.0)]
        self.assertAlmostEqual(float(str(depths[0])), float(str(depths[1])), delta=0.1)

    def test_what_is_fished_later_is_kept_with_the_water_as_it_is_read_then(self) -> None:
        noon = conditions(self.water, at_local="2026-07-14T13:00", wind_speed_mps=1.0, wind_from_deg=90.0,
                          readings=[{"depth_m": 0, "water_c": 21.0}, {"depth_m": 4, "water_c": 14.0}])  # fmt: skip
        _, later, _ = self.fish(conditions=noon, started_at="2026-07-14T11:05:00Z")
        first, second = self.client.get(f"{self.day}/presentations").json()["items"]
        self.assertEqual((first["conditions"]["wind_speed_mps"], second["conditions"]["wind_speed_mps"]), (4.0, 1.0))
        self.assertEqual([r["water_c"] for r in second["conditions"]["readings"]], [21.0, 14.0])
        self.assertEqual(second, later)
        self.assertEqual(self.client.get(self.day).json()["conditions"]["wind_speed_mps"], 4.0)  # what it began with stays
        elsewhere = save_water(water=Water(owner=self.angler), changes={**BRENNHOLT, "name": "Elsewhere"})
        status, problem, _ = self.fish(conditions=conditions(elsewhere))
        self.assertEqual((status, list(problem["fields"])), (422, ["conditions.water_id"]), problem)

    def test_what_nobody_read_is_kept_as_assumed_with_what_stood_for_it(self) -> None:
        names = ["surface_c", "secchi_m"]
        bare = conditions(self.water, readings=[{"depth_m": 0, "water_c": 39}], secchi_m=0.3, assumed=names)
        seen = {each["name"]: each["value"] for each in self.post("/api/pictures", bare).json()["unread"]}
        path = f"/api/days/{uuid.uuid4()}"
        kept = self.put(path, bare).json()["conditions"]
        self.assertEqual(kept["assumed"], names)
        self.assertAlmostEqual(kept["secchi_m"], seen["secchi_m"])
        self.assertEqual([(r["depth_m"], r["water_c"]) for r in kept["readings"]], [(0.0, seen["surface_c"])])

    def test_what_cannot_hang_or_be_towed_so_is_refused_with_its_field(self) -> None:
        hang, tow = {"kind": "hang", "set_depth_m": 4.5}, {"kind": "tow", "out_m": 3.5, "tow_mps": 0.3}
        long = {"name": "longer than the day is deep", "sections": [{"length_m": 5.0, "diameter_m": 0.0002}] * 2}
        for changes, field in (
            ({"action": {"kind": "cast", "set_depth_m": 4.5}}, "action.cast.count_s"),
            ({"action": hang}, "set_depth_m"),  # longer than the leader
            ({"action": tow}, "out_m"),  # no line out
            ({"rig": {"line": LINE, "leader": long, "flies": [{"fly": FLY}]}, "long_leader_ok": False}, "bottom_depth_m"),
        ):
            status, problem, _ = self.fish(**changes)
            self.assertEqual((status, field in problem["fields"]), (422, True), problem)
        self.assertEqual(Presentation.objects.count(), 1)

    def test_undo_takes_an_entry_from_every_list_and_twice_is_once(self) -> None:
        entry = f"{self.day}/entries/{self.entry_id}"
        self.assertEqual([self.client.delete(entry).status_code for _ in range(2)], [204, 204])
        self.assertEqual(self.client.get(f"{self.day}/entries").json(), {"items": [], "count": 0})
        self.assertEqual(self.client.get(self.day).json()["counts"]["take"], 0)
        self.assertIsNotNone(Entry.objects.get().undone_at)

    def test_a_day_totals_what_came_of_it(self) -> None:
        def later(minutes: float) -> str:
            return (THEN + timedelta(minutes=minutes)).isoformat()

        self.put_entry(kind="cast", at=later(5))
        self.put_entry(kind="landed", at=later(6), length_m=0.41, species="rainbow")
        day = self.client.get(self.day).json()
        self.assertEqual((day["counts"]["cast"], day["counts"]["take"], day["counts"]["landed"]), (1, 1, 1))
        self.assertEqual(
            (day["longest_m"], len(day["take_depths"]), day["conditions"]["at_local"]), (0.41, 2, "2026-07-14T10:40:00")
        )

    def test_a_take_and_its_landing_are_one_fish(self) -> None:
        at = (THEN + timedelta(minutes=4)).isoformat()
        self.put_entry(kind="landed", at=at, length_m=0.41, species="rainbow")  # after the take that every test's day has
        day = self.client.get(self.day).json()
        self.assertEqual((day["counts"]["take"], day["counts"]["landed"], len(day["take_depths"])), (0, 1, 1))

    def test_nothing_is_refused_for_its_time_and_an_odd_one_is_flagged(self) -> None:
        ahead = timezone.now() + timedelta(days=400)
        body = conditions(self.water, at_local=ahead.isoformat())
        day = f"/api/days/{uuid.uuid4()}"
        self.assertEqual([self.put(day, body).status_code for _ in range(2)], [201, 200])
        status, entry = self.put_entry(at=ahead.isoformat())
        started = f"{self.day}/presentations/{uuid.uuid4()}"
        fished = self.put(started, presentation(started_at=ahead.isoformat(), conditions=body))
        self.assertEqual((status, fished.status_code), (201, 201))
        self.assertEqual([one["odd_time"] for one in (self.client.get(day).json(), entry, fished.json())], [True] * 3)
        self.assertEqual(self.put_entry()[1]["odd_time"], False)

    def test_a_device_ten_minutes_ahead_is_put_right_and_what_it_said_is_kept(self) -> None:
        now = timezone.now().replace(microsecond=0)
        off, waited = timedelta(minutes=10), timedelta(hours=3)
        said = (now - waited + off).isoformat()
        clocks = {
            "X-Written-Ms": round((now - waited + off).timestamp() * 1000),
            "X-Now-Ms": round((now + off).timestamp() * 1000),
        }

        def put(path: str, body: dict[str, Any]) -> dict[str, Any]:
            answer = self.client.put(path, body, content_type="application/json", headers=clocks)
            self.assertEqual(answer.status_code, 201, answer.content)
            told: dict[str, Any] = answer.json()
            return told

        body = conditions(self.water, at_local=said, read_at_local=said)
        day_path = f"/api/days/{uuid.uuid4()}"
        day = put(day_path, body)
        fished_path = f"{day_path}/presentations/{uuid.uuid4()}"
        fished = put(fished_path, presentation(started_at=said, conditions=body))
        entry = put(f"{day_path}/entries/{uuid.uuid4()}", self.entry(at=said, presentation_id=fished["id"]))
        for told, name in ((day, "at"), (fished, "started_at"), (entry, "at")):
            with self.subTest(name=name):
                at = datetime.fromisoformat(told[name])
                self.assertLess(abs(at - (now - waited)), timedelta(seconds=20))
                self.assertEqual(datetime.fromisoformat(told["device_at"]), now - waited + off)
                self.assertFalse(told["odd_time"])
        for read in (day["conditions"], fished["conditions"]):
            zone = self.water.time_zone
            at = local_to_utc(datetime.fromisoformat(read["at_local"]), zone)
            read_at = local_to_utc(datetime.fromisoformat(read["read_at_local"]), zone)
            self.assertLess(max(abs(at - now + waited), abs(read_at - now + waited)), timedelta(seconds=20))

    def test_clocks_that_cannot_be_are_refused_with_their_name(self) -> None:
        for wrong in ("-1", "soon", "1e99", "\u0661\u0662"):
            answer = self.client.put(
                f"{self.day}/entries/{uuid.uuid4()}", self.entry(), content_type="application/json",
                headers={"X-Written-Ms": wrong, "X-Now-Ms": "5"},
            )  # fmt: skip
            self.assertEqual(answer.status_code, 422, wrong)

    def test_what_cannot_be_is_refused_and_not_stored(self) -> None:
        self.assertEqual(self.put_entry(kind="sighting")[0], 422)
        self.assertEqual(self.put_entry(at="2026-07-14T10:40")[1]["fields"], {"at": "Input should have timezone info"})
        self.assertEqual(self.put_entry(species="pike", kind="landed")[0], 422)
        status, problem = self.put_entry(kind="lost", length_m=0.4)
        self.assertEqual((status, problem["fields"]), (422, {"length_m": "Only a landed fish has a length."}))
        self.assertEqual(self.put_entry(kind="landed", length_m=3.0)[0], 422)
        self.assertEqual((Day.objects.count(), Presentation.objects.count(), Entry.objects.count()), (1, 1, 1))

    def test_an_entry_belongs_to_a_presentation_of_that_day(self) -> None:
        self.assertEqual(self.put_entry(presentation_id=str(uuid.uuid4()))[0], 404)

    def test_a_water_with_days_cannot_be_lost(self) -> None:
        with self.assertRaises(IntegrityError), transaction.atomic():
            self.water.delete()
        self.assertEqual(Day.objects.count(), 1)

    def test_the_store_itself_refuses_what_is_neither_cast_nor_hung_nor_towed(self) -> None:
        with self.assertRaises(IntegrityError), transaction.atomic():
            Presentation.objects.update(action={"kind": "thrown"})

    def test_the_store_itself_refuses_an_impossible_entry(self) -> None:
        stored = Presentation.objects.get()
        for wrong in ({"kind": "sighting"}, {"length_m": 3.0}, {"depth_low_m": 5.0, "depth_high_m": 1.0}):
            fields = {"kind": "landed", "depth_low_m": 1.0, "depth_high_m": 2.0, "at": THEN, **wrong}
            with self.subTest(**wrong), self.assertRaises(IntegrityError), transaction.atomic():
                Entry.objects.create(presentation=stored, **fields)
