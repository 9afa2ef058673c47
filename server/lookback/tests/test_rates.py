"""What the log knows, over the API: a thin log, one with a known truth, and one put right afterwards."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

from accounts.services import sign_up
from days.models import Day, DayFacts, Presentation, Stretch
from demo.many import FEEDING_M, lay_seasons
from demo.season import BRENNHOLT, TRESCANAS
from project.tests.people import FLY, LEADER, LINE, PASSWORD, THEN, PeopleTestCase, conditions, presentation
from waters.models import Water
from waters.services import save_water


class ThinLogTests(PeopleTestCase):
    """One day at the water, fished by hand."""

    def setUp(self) -> None:
        super().setUp()
        self.log_day()
        self.day = f"/api/days/{self.day_id}"

    def log(self, kind: str, minute: float, **changes: Any) -> None:
        body = {
            "presentation_id": str(self.presentation_id),
            "kind": kind,
            "at": (THEN + timedelta(minutes=minute)).isoformat(),
        }
        self.assertEqual(self.put(f"{self.day}/entries/{uuid.uuid4()}", {**body, **changes}).status_code, 201)

    def rates(self, by: str, **query: Any) -> dict[str, Any]:
        answer = self.client.get("/api/rates", {"by": by, **query})
        self.assertEqual(answer.status_code, 200, answer.content)
        return dict(answer.json())

    def test_an_empty_log_has_no_rates_and_says_so(self) -> None:
        self.client.force_login(self.other)
        for by in ("depth", "fly", "hour"):
            found = self.rates(by)
            self.assertEqual((found["ways"], found["best_key"], found["hours"]), ([], None, 0.0))
            self.assertIn("too little to tell", found["words"]["text"])
        self.assertEqual([chart["ways"] for chart in self.client.get("/api/in-short").json()["charts"]], [[]] * 4)
        self.assertEqual(self.client.get("/api/audit").json()["promises"], 0)
        self.assertEqual(self.post("/api/alike", conditions(save_water(water=Water(owner=self.other), changes=dict(BRENNHOLT)))).json()["days"], [])  # fmt: skip

    def test_hours_are_those_of_the_fly_in_the_water_and_not_of_the_day(self) -> None:
        self.log("cast", 10)
        self.log("nothing", 12, cast_elapsed_s=40.0)
        self.log("cast", 100)
        self.log("nothing", 101, cast_elapsed_s=20.0)
        found = self.rates("method")
        (way,) = found["ways"]
        self.assertEqual((way["key"], way["takes"], way["days"]), ("Sinker", 1, 1))
        self.assertAlmostEqual(way["hours"], 60.0 / 3600.0, delta=0.006)
        self.assertTrue(way["thin"])
        hours = self.rates("hour")
        self.assertEqual([one["key"] for one in hours["ways"]], ["10", "12"])  # there, in summer time
        by_depth = self.rates("depth")
        self.assertAlmostEqual(sum(one["hours"] for one in by_depth["ways"]), 60.0 / 3600.0, delta=0.03)

    def test_of_a_team_each_fly_has_what_came_to_it_and_the_phase_of_the_cast_is_told(self) -> None:
        one = Presentation.objects.get(pk=self.presentation_id)
        team = [FLY | {"name": name} for name in ("Point pupa", "Middle pupa", "Top pupa")]
        one.flies = [{"fly": fly, "above_point_m": 1.0 * i, "dropper_m": 0.1} for i, fly in enumerate(team)]
        one.save()
        self.log("cast", 10)
        self.log("take", 11, cast_elapsed_s=30.0, fly=2, phase="hang")
        self.log("landed", 14, cast_elapsed_s=30.0, fly=2, phase="hang")
        self.log("cast", 20)
        self.log("take", 21, cast_elapsed_s=30.0, fly=1, phase="pull")
        self.log("cast", 30)
        self.log("take", 31, cast_elapsed_s=30.0, fly=2, phase="hang")
        self.log("cast", 40)
        self.log("take", 41, cast_elapsed_s=30.0)
        ways = {way["key"]: way for way in self.rates("fly")["ways"]}
        self.assertEqual({name: way["takes"] for name, way in ways.items()}, {"Point pupa": 2, "Middle pupa": 1, "Top pupa": 2})
        landed = {way["key"]: way["takes"] for way in self.rates("fly", of="landed")["ways"]}
        self.assertEqual((landed["Top pupa"], landed["Middle pupa"]), (1, 0))
        self.assertEqual(len({way["hours"] for way in ways.values()}), 1)
        short = self.client.get("/api/in-short").json()
        self.assertEqual(short["phases"], [{"phase": "hang", "takes": 2}, {"phase": "pull", "takes": 1}])
        self.assertEqual(self.client.get("/api/in-short", {"water_id": 10**6}).json()["phases"], [])

    def test_what_is_undone_or_put_right_changes_the_rates(self) -> None:
        self.log("cast", 1)
        self.log("nothing", 3, cast_elapsed_s=60.0)
        self.assertEqual(self.rates("fly")["ways"][0]["takes"], 1)
        changed = self.client.patch(f"{self.day}/entries/{self.entry_id}", {"kind": "knock"}, content_type="application/json")
        self.assertEqual(changed.status_code, 200, changed.content)
        self.assertEqual(self.rates("fly")["ways"][0]["takes"], 0)
        history = self.client.get(f"{self.day}/changes").json()
        self.assertEqual((history["count"], history["items"][0]["before"], history["items"][0]["after"]),
                         (1, {"kind": "take"}, {"kind": "knock"}))  # fmt: skip
        self.client.delete(f"{self.day}/entries/{self.entry_id}")
        self.assertEqual(self.client.get(self.day).json()["counts"]["knock"], 0)

    def test_a_fish_keeps_what_it_can_be_and_nothing_else(self) -> None:
        landed = uuid.uuid4()
        path = f"{self.day}/entries/{landed}"
        self.put(path, self.entry(kind="landed", species="brown", length_m=0.4, kept=False))

        def patch(**changes: Any) -> Any:
            return self.client.patch(path, changes, content_type="application/json")

        self.assertEqual(patch(length_m=0.44, species="rainbow").json()["length_m"], 0.44)
        weighed = patch(weight_kg=0.9).json()
        self.assertEqual(weighed["condition_pct"], round(100.0 * 0.9 / weighed["usual_kg"]))
        self.assertIsNone(patch(weight_kg=None).json()["condition_pct"])
        self.assertEqual(patch(length_m=9.0).status_code, 422)
        self.assertEqual(patch(kind=None).status_code, 422)
        self.assertEqual(patch(species="pike").status_code, 422)
        lost = patch(kind="lost").json()
        self.assertEqual((lost["kind"], lost["length_m"], lost["species"], lost["kept"]), ("lost", None, "", None))
        self.assertEqual(patch(length_m=0.4).status_code, 422)
        items = self.client.get(f"{self.day}/changes").json()["items"]
        self.assertEqual([set(one["before"]) for one in items][-1], {"length_m", "species"})
        self.assertEqual(items[0]["before"]["length_m"], 0.44)

    def test_notes_and_conditions_are_put_right_with_what_stood_there(self) -> None:
        def patch(**changes: Any) -> Any:
            return self.client.patch(self.day, changes, content_type="application/json")

        self.assertEqual(patch(notes="Rose at dusk.").json()["notes"], "Rose at dusk.")
        warmer = conditions(self.water, readings=[{"depth_m": 0.0, "water_c": 15.0}])
        self.assertEqual(patch(conditions=warmer).json()["conditions"]["readings"][0]["water_c"], 15.0)
        elsewhere = save_water(water=Water(owner=self.angler), changes=dict(TRESCANAS))
        self.assertEqual(patch(conditions=conditions(elsewhere)).status_code, 422)
        self.assertEqual(patch(conditions=conditions(self.water, secchi_m=900.0)).status_code, 422)
        found = self.client.get("/api/days", {"text": "dusk rose"}).json()
        self.assertEqual([day["id"] for day in found["items"]], [str(self.day_id)])
        self.assertEqual(self.client.get("/api/days", {"text": "dawn"}).json()["count"], 0)
        self.assertEqual(self.client.get(f"{self.day}/changes").json()["count"], 2)

    def test_days_are_found_by_water_month_warmth_and_wind(self) -> None:
        cases: tuple[tuple[dict[str, Any], int], ...] = (
            ({"months": [7]}, 1), ({"months": [1, 2]}, 0), ({"least_c": 18}, 1), ({"most_c": 18}, 0), ({"least_wind_mps": 5}, 0),
            ({"water_id": self.water.pk}, 1), ({"water_id": 10_000}, 0), ({"from_date": "2026-07-15"}, 0),
            ({"to_date": "2026-07-14", "text": "olive NYMPH"}, 1), ({"text": "type 3 sinker"}, 1),
        )  # fmt: skip
        for query, count in cases:
            self.assertEqual(self.client.get("/api/days", query).json()["count"], count, query)
        self.assertEqual(self.client.get("/api/days", {"months": [13]}).status_code, 422)

    def test_what_was_changed_is_said_of_each_presentation(self) -> None:
        later = (THEN + timedelta(hours=1)).isoformat()
        other = {"line": {**LINE, "name": "Type 6", "sink_rate_mps": 0.15, "class_key": "type-6"}, "leader": LEADER,
                 "flies": [{"fly": {**FLY, "name": "Black leech"}}]}  # fmt: skip
        body = presentation(rig=other, action={"retrieve_key": "slow-twist"}, started_at=later)
        self.assertEqual(self.put(f"{self.day}/presentations/{uuid.uuid4()}", body).status_code, 201)
        first, second = self.client.get(f"{self.day}/presentations").json()["items"]
        self.assertIsNone(first["changed"])
        self.assertIn("Three things changed at once: line, fly and retrieve.", second["changed"]["text"])

    def test_a_day_whose_conditions_can_be_read_no_more_still_counts(self) -> None:
        Day.objects.update(conditions={**Day.objects.get().conditions, "species": "unheard-of"}, tallied=False)
        Presentation.objects.update(conditions={**Presentation.objects.get().conditions, "species": "unheard-of"}, told=None)
        self.log("cast", 1)
        self.assertEqual(self.rates("fly")["ways"][0]["takes"], 1)
        self.assertEqual(self.client.get("/api/days").json()["items"][0]["counts"]["cast"], 1)

    def test_a_day_with_nothing_on_it_can_go_and_no_other(self) -> None:
        self.assertEqual(self.client.delete(self.day).status_code, 409)
        empty = f"/api/days/{uuid.uuid4()}"
        self.put(empty, conditions(self.water))
        self.assertEqual(self.client.delete(empty).status_code, 204)
        self.assertEqual(self.client.get(empty).status_code, 404)

    def test_promises_are_kept_as_the_plan_made_them_and_held_against_what_came(self) -> None:
        self.water.takes_factor = 0.5
        self.water.save()
        advice = {"standing": "best", "method_key": "sinker", "takes_ph": 1.0, "low_ph": 0.4, "high_ph": 2.0}
        self.presentation_id = uuid.uuid4()
        body = presentation(started_at=THEN.isoformat(), advice=advice)
        kept = self.put(f"{self.day}/presentations/{self.presentation_id}", body).json()["advice"]
        self.assertEqual((kept["takes_ph"], kept["high_ph"]), (2.0, 4.0))
        self.log("cast", 20)
        self.log("landed", 21, cast_elapsed_s=30.0)
        found = self.client.get("/api/audit", {"water_id": self.water.pk}).json()
        self.assertEqual((found["promises"], found["taken"], found["correction"]["came"]), (1, 0.5, 1))
        self.assertEqual([row["key"] for row in found["followed"]], ["best"])
        self.assertFalse(found["correction"]["offered"])
        move = {"standing": "move", "method_key": "sinker"}
        started = presentation(started_at=(THEN + timedelta(hours=1)).isoformat(), advice=move)
        self.presentation_id = uuid.uuid4()
        self.assertIsNone(self.put(f"{self.day}/presentations/{self.presentation_id}", started).json()["advice"]["takes_ph"])
        self.log("cast", 62)
        again = self.client.get("/api/audit").json()
        self.assertEqual(([row["key"] for row in again["followed"]], again["promises"]), (["best", "move"], 1))
        self.assertEqual(self.put(f"/api/waters/{self.water.pk}/correction", {}).status_code, 409)
        plan = self.post("/api/choices", {"conditions": conditions(self.water), "thorough": False}).json()
        self.assertEqual(plan["correction"], 0.5)
        self.assertEqual(self.client.delete(f"/api/waters/{self.water.pk}/correction").status_code, 204)
        uncorrected = self.post("/api/choices", {"conditions": conditions(self.water), "thorough": False}).json()
        self.assertIsNone(uncorrected["correction"])
        self.assertAlmostEqual(plan["ranked"][0]["takes_ph"], 0.5 * uncorrected["ranked"][0]["takes_ph"], places=2)


class LongLogTests(PeopleTestCase):
    """Two seasons whose fish are known to feed at one depth."""

    keeper: Any
    lake: Water

    @classmethod
    def setUpTestData(cls) -> None:
        super().setUpTestData()
        cls.keeper = sign_up(username="keeper", password=PASSWORD)
        cls.lake = save_water(water=Water(owner=cls.keeper), changes=dict(BRENNHOLT))
        lay_seasons(cls.keeper, [cls.lake], 1)

    def setUp(self) -> None:
        super().setUp()
        self.client.force_login(self.keeper)

    def test_the_depth_at_which_they_feed_is_found_and_called_sure(self) -> None:
        found = self.client.get("/api/in-short").json()
        depth = found["charts"][0]
        best = next(way for way in depth["ways"] if way["key"] == depth["best_key"])
        self.assertTrue(best["low"] - 1.0 <= FEEDING_M <= best["high"] + 1.0, best)
        shallow = depth["ways"][0]
        self.assertLess(shallow["high_ph"], best["low_ph"])
        self.assertEqual((found["days"], found["takes"]), (100, sum(DayFacts.objects.filter(owner=self.keeper).values_list("takes", flat=True))))  # fmt: skip
        for way in depth["ways"]:
            self.assertTrue(way["low_ph"] <= way["mean_ph"] <= way["high_ph"])

    def test_every_grouping_counts_every_take_once(self) -> None:
        takes = sum(Stretch.objects.filter(owner=self.keeper).values_list("takes", flat=True))
        for by in (
            "depth",
            "above_bottom",
            "temperature",
            "light",
            "wind",
            "method",
            "fly",
            "line",
            "retrieve",
            "hour",
            "month",
        ):
            found = self.client.get("/api/rates", {"by": by}).json()
            self.assertEqual(sum(way["takes"] for way in found["ways"]), takes, by)
        landed = self.client.get("/api/rates", {"by": "month", "of": "landed"}).json()
        self.assertLess(sum(way["takes"] for way in landed["ways"]), takes)
        july = self.client.get("/api/rates?by=month&months=7").json()
        self.assertEqual([way["key"] for way in july["ways"]], ["07"])

    def test_a_new_plan_leans_on_days_like_it_says_so_and_can_be_told_not_to(self) -> None:
        now = conditions(self.lake, readings=[{"depth_m": 0.0, "water_c": 17.0}], cloud_fraction=0.5)
        alike = self.post("/api/alike", now).json()
        self.assertGreater(len(alike["days"]), 2)
        self.assertEqual(alike["days"], sorted(alike["days"], key=lambda day: -day["alike"]))
        self.assertTrue(0.03 <= alike["lean"]["share"] <= 0.5)
        leaned = self.post("/api/pictures", now).json()["belief"]
        why = next(factor for factor in leaned["factors"] if factor["key"] == "log")
        self.assertIn("like this one", why["why"]["text"])
        self.assertEqual(
            self.client.patch("/api/preferences", {"uses_log": False}, content_type="application/json").status_code, 200
        )
        plain = self.post("/api/pictures", now).json()["belief"]
        self.assertNotIn("log", [factor["key"] for factor in plain["factors"]])
        self.assertNotEqual(plain["main_band"], leaned["main_band"])
        self.assertFalse(self.post("/api/alike", now).json()["counted"])

    def test_a_day_is_no_day_like_itself_nor_like_those_before_it(self) -> None:
        first = Day.objects.filter(owner=self.keeper).order_by("at")[0]
        self.assertEqual(self.post("/api/alike", {**first.conditions}).json()["alike"], 0)

    def test_advice_that_promised_too_much_is_corrected_once_it_is_let(self) -> None:
        found = self.client.get("/api/audit", {"water_id": self.lake.pk}).json()
        self.assertGreater(found["promises"], 100)
        self.assertEqual({row["key"] for row in found["followed"]}, {"best", "as-good", "other", "own"})
        self.assertEqual(len(found["bins"]), 4)
        self.assertTrue(found["correction"]["offered"], found["correction"])
        taken = self.put(f"/api/waters/{self.lake.pk}/correction", {}).json()
        self.assertAlmostEqual(taken["takes_factor"], found["correction"]["factor"], places=2)

    def test_a_waters_year(self) -> None:
        year = self.client.get(f"/api/waters/{self.lake.pk}/year").json()
        self.assertEqual((len(year["points"]), sum(year["days_in_month"]), year["untallied"]), (100, 100, 0))
        self.assertEqual(year["days_in_month"][0], 0)
        self.assertLessEqual(year["first_takes_on"][0], year["last_takes_on"][0])

    def test_a_log_that_came_all_at_once_is_worked_out_in_parts(self) -> None:
        Day.objects.filter(owner=self.keeper).update(tallied=False)
        left = [self.client.get("/api/rates", {"by": "fly"}).json()["untallied"] for _ in range(3)]
        self.assertEqual(left, [60, 20, 0])

    def test_a_chart_asks_the_store_few_questions_however_long_the_log(self) -> None:
        for path, questions in (
            ("/api/in-short", 3),
            ("/api/rates?by=fly", 2),
            ("/api/audit", 3),
            ("/api/days?text=sinker", 3),
        ):
            with self.subTest(path), self.assertNumQueries(questions + 2):  # and the session and the person
                self.client.get(path)
