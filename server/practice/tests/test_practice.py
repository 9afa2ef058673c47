"""Practice days and drills over the API: a day is dealt, fished and told; the truth stays hidden, and nothing of it counts."""

from __future__ import annotations

import json
import uuid
import zipfile
from base64 import b64decode
from io import BytesIO
from typing import Any

from practice.models import Drill, PracticeDay
from practice.services import scenario_of_day
from project.tests.people import PeopleTestCase
from stillthread.api import DAY_MIN, Conditions, play_json, scenario_of


def deal_of(path: str) -> Conditions:
    return scenario_of_day(PracticeDay.objects.get(pk=path.rsplit("/", 1)[1])).conditions


class PracticeTests(PeopleTestCase):
    def deal(self, seed: str | None = "BCDFGH", level: str = "easy", **more: Any) -> str:
        path = f"/api/practice-days/{uuid.uuid4()}"
        answer = self.put(path, {"level": level, "seed": seed, **more})
        self.assertEqual(answer.status_code, 201, answer.content)
        return path

    def state(self, path: str) -> dict[str, Any]:
        return dict(self.client.get(path).json())

    def act(self, path: str, **act: Any) -> Any:
        return self.put(f"{path}/acts/{self.state(path)['acts']}", act)

    def fish(self, path: str, casts: int, pick: int = 0) -> dict[str, Any]:
        ranked = self.client.get(f"{path}/plan").json()["ranked"]
        one = ranked[pick]
        rig = {name: one[name] for name in ("line", "leader", "flies")}
        for _ in range(casts):
            answer = self.act(path, kind="cast", rig=rig, action=one["action"])
            self.assertEqual(answer.status_code, 200, answer.content)
        return dict(answer.json())

    def test_a_seed_is_the_same_day_for_everybody_and_the_week_has_one_of_its_own(self) -> None:
        mine, again = self.state(self.deal()), self.state(self.deal())
        for name in ("water", "clock", "bottom_m", "picture"):
            self.assertEqual(mine[name], again[name])
        other = self.state(self.deal(seed="ZXWVTS"))
        self.assertNotEqual(mine["picture"]["profile"], other["picture"]["profile"])
        weeks = {self.state(self.deal(seed=None, week=True))["seed"] for _ in range(2)}
        self.assertEqual(len(weeks), 1)
        drawn = {self.state(self.deal(seed=None))["seed"] for _ in range(4)}
        self.assertGreater(len(drawn), 1)
        refused = self.put(f"/api/practice-days/{uuid.uuid4()}", {"level": "easy", "seed": "no seed"})
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "bad_input"))
        self.assertIn("seed", refused.json()["fields"])

    def test_readings_cost_minutes_once_and_say_what_is_there(self) -> None:
        path = self.deal()
        true = scenario_of("BCDFGH", "easy").conditions
        before = self.state(path)
        self.assertEqual(len(before["picture"]["readings"]), 1)
        for reading in ("lowering", "sounding", "look", "clarity"):
            self.act(path, kind="reading", what=reading)
        after = self.state(path)
        self.assertEqual(after["at_min"], 17.0)
        self.assertEqual(after["bottom_m"], true.bottom_depth_m)
        self.assertEqual(len(after["picture"]["readings"]), len(true.readings))
        again = self.act(path, kind="reading", what="lowering")
        self.assertEqual((again.status_code, again.json()["code"]), (409, "read_before"))
        self.assertEqual(self.act(path, kind="place").json()["at_min"], 32.0)

    def test_the_truth_is_nowhere_before_the_end_and_all_of_it_after(self) -> None:
        path = self.deal()
        hidden = scenario_of("BCDFGH", "easy").truth
        told = self.fish(path, 6)
        self.assertIsNone(told["told"])
        self.assertTrue(all(one["expected"] is None for one in told["casts"]))
        self.assertEqual(self.client.get(f"{path}/schools/static").status_code, 409)
        for answer in (told, self.client.get(f"{path}/plan").json(), self.client.get(f"{path}/advice").json()):
            text = json.dumps(answer)
            for secret in ("rate_pmin", "centre_m", "begin_m", "sealed", '"knew": '):
                self.assertNotIn(secret, text)
        ended = self.act(path, kind="end").json()
        self.assertEqual(ended["told"]["hidden"]["centre_m"][0], hidden.begin_m)
        self.assertEqual(ended["told"]["takes"], ended["takes"])
        self.assertGreater(ended["told"]["knew"], 0.0)
        self.assertGreaterEqual(ended["told"]["knew"], ended["told"]["advice"] * 0.9)
        self.assertTrue(all(one["expected"] is not None for one in ended["casts"]))
        school = self.client.get(f"{path}/schools/static")
        self.assertEqual((school.status_code, school.json()["name"]), (200, "Static"))
        self.assertEqual(self.client.get(f"{path}/schools/none").status_code, 422)
        again = self.act(path, kind="end").json()
        self.assertEqual(again["told"], ended["told"])
        late = self.act(path, kind="reading", what="look")
        self.assertEqual((late.status_code, late.json()["code"]), (409, "day_ended"))

    def test_an_act_sent_again_is_one_act_and_brings_the_same(self) -> None:
        path = self.deal()
        one = self.client.get(f"{path}/plan").json()["ranked"][0]
        body = {"kind": "cast", "rig": {n: one[n] for n in ("line", "leader", "flies")}, "action": one["action"]}
        first, second = self.put(f"{path}/acts/0", body).json(), self.put(f"{path}/acts/0", body).json()
        self.assertEqual(first["casts"], second["casts"])
        self.assertEqual(len(second["casts"]), 1)
        self.put(f"{path}/acts/1", {"kind": "place"})
        self.assertEqual(self.put(f"{path}/acts/1", {"kind": "place"}).json()["place"], 1)
        other = self.put(f"{path}/acts/1", {"kind": "reading", "what": "look"})
        self.assertEqual((other.status_code, other.json()["code"]), (409, "done_otherwise"))
        ended = self.put(f"{path}/acts/1", {"kind": "end"})
        self.assertEqual((ended.status_code, ended.json()["code"]), (409, "done_otherwise"))
        skipped = self.put(f"{path}/acts/5", body)
        self.assertEqual((skipped.status_code, skipped.json()["code"]), (409, "out_of_turn"))
        unknown = self.put(f"{path}/acts/2", {"kind": "sleep"})
        self.assertEqual((unknown.status_code, unknown.json()["code"]), (422, "invalid"))
        # The same day fished the same way by another brings the same.
        twin = self.deal()
        self.assertEqual(self.put(f"{twin}/acts/0", body).json()["casts"], first["casts"])

    def test_a_day_that_was_taken_along_is_played_by_the_device_as_the_server_plays_it(self) -> None:
        path = self.deal(level="fair")
        early = self.post(f"{path}/shots", {"rig": None})
        self.assertEqual(early.status_code, 422)
        self.act(path, kind="reading", what="lowering")
        taken = self.post(f"{path}/pack", {}).json()
        self.assertEqual(self.post(f"{path}/pack", {}).json(), taken)
        self.assertEqual([plan["made"] for plan in taken["plans"]][:2], [["lowering"], ["lowering", "sounding"]])
        self.assertEqual(len(taken["seen"]), 8 * 4)

        def play(log: list[Any], **asked: Any) -> dict[str, Any]:
            return dict(json.loads(play_json(taken["game"], json.dumps({"log": log, "told": None, **asked}))))

        log, plan = taken["log"], taken["plans"][0]
        for turn in (3, 3, 5, 0):
            method = plan["ranked"][0]["method"]["key"]
            rig = {n: plan["ranked"][0][n] for n in ("line", "leader", "flies")}
            turned = plan["turns"][method][turn]
            # Worked out again where there is a connection, a shot is the one that went along.
            again = self.post(f"{path}/shots", {"rig": rig, "action": turned["action"]}).json()
            self.assertEqual(again, turned["shot"])
            mine = play(log, ask="act", act={"kind": "cast", "shot": turned["shot"]})
            theirs = self.act(path, kind="cast", rig=rig, action=turned["action"]).json()
            log.append(mine["new"])
            self.assertEqual(mine["day"], {name: theirs[name] for name in mine["day"]})
            self.assertEqual(mine["plan"], 0)
        read = play(log, ask="act", act={"kind": "reading", "what": "sounding"})
        self.assertEqual(read["plan"], 1)
        self.act(path, kind="reading", what="sounding")
        log.append(read["new"])
        seen = taken["seen"]["lowering+sounding|0"]
        self.assertEqual(seen["bottom_m"], self.state(path)["bottom_m"])
        advice, theirs = play(log, ask="advise")["advice"], self.client.get(f"{path}/advice").json()
        self.assertEqual(advice["words"], theirs["words"])
        if advice["key"]:
            self.assertEqual(taken["plans"][1]["ways"][advice["key"]]["rig"], theirs["rig"])
        soon = play(log, ask="tell", with_advice=False)["told"]
        told = play(log, ask="tell", with_advice=True)["told"]
        self.assertEqual({**soon, "advice": told["advice"]}, told)
        self.assertEqual(self.act(path, kind="end").json()["told"], told)
        again = play(log, ask="act", act={"kind": "reading", "what": "sounding"})
        self.assertEqual(again["refused"]["code"], "read_before")
        self.assertEqual(self.post(f"{path}/pack", {}).json()["code"], "day_ended")

    def test_a_day_on_ones_own_water_is_that_water_as_it_was(self) -> None:
        path = self.deal(water_id=self.water.pk)
        day = self.state(path)
        self.assertEqual((day["water"], day["own"], day["for_friends"]), (self.water.name, True, False))
        self.assertTrue(
            0.7 * self.water.usual_bottom_depth_m < deal_of(path).bottom_depth_m < 1.3 * self.water.usual_bottom_depth_m
        )
        self.assertEqual(day["bottom_m"], self.water.usual_bottom_depth_m)  # nobody has sounded it yet
        row = self.client.get("/api/practice-days").json()["items"][0]
        self.assertEqual((row["water"], row["taken"]), (self.water.name, False))
        self.water.delete()
        self.assertEqual(self.state(path), day)
        gone = self.put(f"/api/practice-days/{uuid.uuid4()}", {"level": "easy", "water_id": 10**9})
        self.assertEqual(gone.status_code, 404)
        self.assertTrue(self.state(self.deal())["for_friends"])

    def test_another_day_on_the_same_water_is_the_one_that_the_device_dealt(self) -> None:
        first = self.deal(water_id=self.water.pk)
        like = first.rsplit("/", 1)[1]
        early = self.put(f"/api/practice-days/{uuid.uuid4()}", {"level": "hard", "like": like})
        self.assertEqual((early.status_code, early.json()["code"]), (409, "not_taken"))
        pack = self.post(f"{first}/pack", {}).json()
        scenario = json.loads(play_json(pack["game"], json.dumps({"log": [], "told": None, "ask": "again", "level": "hard"})))
        second = self.deal(seed=scenario["seed"], level="hard", like=like)
        hidden = scenario_of_day(PracticeDay.objects.get(pk=second.rsplit("/", 1)[1])).hidden
        self.assertEqual(json.loads(b64decode(scenario["sealed"]))["hidden"], hidden.told())
        self.assertNotEqual(hidden.truth, scenario_of_day(PracticeDay.objects.get(pk=like)).truth)
        ours, theirs = self.state(second), self.state(first)
        self.assertEqual((ours["picture"], ours["water"], ours["taken"]), (theirs["picture"], theirs["water"], True))
        # Of a third its water is still that of the first.
        third = self.deal(seed="ZXWVTS", level="easy", like=second.rsplit("/", 1)[1])
        self.assertEqual((self.state(third)["picture"], self.state(third)["for_friends"]), (ours["picture"], False))

    def test_a_day_is_over_when_it_is_and_a_friend_can_not_look_in(self) -> None:
        path = self.deal()
        day = PracticeDay.objects.get(pk=path.rsplit("/", 1)[1])
        day.log = [{"kind": "place", "at_min": 0.0, "ends_min": DAY_MIN}]
        day.save()
        over = self.act(path, kind="place")
        self.assertEqual((over.status_code, over.json()["code"]), (409, "day_over"))
        self.assertEqual(self.act(path, kind="end").json()["told"]["takes"], 0)

    def test_nothing_of_practice_is_in_an_export_a_rate_or_a_list_of_days(self) -> None:
        def known() -> dict[str, Any]:
            return {
                "days": self.client.get("/api/days").json(), "short": self.client.get("/api/in-short").json(),
                "rates": self.client.get("/api/rates?by=depth").json(), "audit": self.client.get("/api/audit").json(),
                "waters": self.client.get("/api/waters").json(), "casts": self.client.get("/api/casts.csv").content,
                "catches": self.client.get("/api/catches.csv").content,
            }  # fmt: skip

        before = known()
        path = self.deal(level="easy")
        self.fish(path, 12)
        self.act(path, kind="end")
        self.assertEqual(known(), before)
        with zipfile.ZipFile(BytesIO(b"".join(self.client.get("/api/archive.zip")))) as archive:
            everything = b"".join(archive.read(name) for name in archive.namelist())
        self.assertNotIn(b"BCDFGH", everything)
        rows = self.client.get("/api/practice-days").json()
        self.assertEqual((rows["count"], rows["items"][0]["casts"]), (1, 12))

    def test_advice_begins_with_the_plan_and_goes_on_from_what_came(self) -> None:
        path = self.deal()
        first = self.client.get(f"{path}/advice").json()
        self.assertTrue(first["change"])
        self.assertIsNotNone(first["rig"])
        self.fish(path, 10, pick=-1)
        later = self.client.get(f"{path}/advice").json()
        self.assertTrue(later["words"])


class DrillTests(PeopleTestCase):
    def test_each_kind_is_asked_scored_and_the_first_answer_counts(self) -> None:
        for kind in ("depth", "float", "line", "count"):
            with self.subTest(kind):
                asked = self.post("/api/drills", {"kind": kind})
                self.assertEqual(asked.status_code, 201)
                drill = asked.json()
                self.assertIsNone(drill["points"])
                self.assertEqual(bool(drill["choices"]), kind == "line")
                told = self.post(f"/api/drills/{drill['id']}/answer", {"answer": 2.0}).json()
                self.assertTrue(0 <= told["points"] <= 100)
                self.assertTrue(told["told"]["text"])
                again = self.post(f"/api/drills/{drill['id']}/answer", {"answer": 4.0}).json()
                self.assertEqual(again["points"], told["points"])
        self.assertEqual(self.client.get("/api/drills").json()["count"], 4)
        self.post("/api/drills", {"kind": "float"})
        self.assertEqual(self.client.get("/api/drills").json()["count"], 4)  # not answered, not in the curve
        bad = self.post(f"/api/drills/{Drill.objects.filter(kind='line')[0].pk}/answer", {"answer": 40.0})
        self.assertEqual(bad.status_code, 200)  # it was answered before
        fresh = self.post("/api/drills", {"kind": "line"}).json()
        refused = self.post(f"/api/drills/{fresh['id']}/answer", {"answer": 40.0})
        self.assertEqual((refused.status_code, refused.json()["fields"].keys()), (422, {"answer": ""}.keys()))
