"""The plan over the API: the whole box, within the rules, every choice with how to tie it and what comes next."""

from __future__ import annotations

from typing import Any

from icalendar import Calendar

from box.models import Fly, Line, Spool
from project.tests.people import FLY, LEADER, PeopleTestCase, conditions


class ChoicesTests(PeopleTestCase):
    def ask(self, **changes: Any) -> Any:
        return self.post("/api/choices", {"conditions": conditions(self.water), **changes})

    def test_each_method_comes_once_with_line_team_leader_and_ladder(self) -> None:
        told = self.ask().json()
        self.assertGreater(told["tried"], 300)
        keys = [one["method"]["key"] for one in told["ranked"]]
        self.assertEqual(len(keys), len(set(keys)))
        self.assertEqual(set(keys) & {out["method_key"] for out in told["excluded"]}, set())
        self.assertEqual(told["rules"][-1], "Local rules and your licence come first.")
        owned = set(Fly.objects.filter(owner=self.angler).values_list("name", flat=True))
        for one in told["ranked"]:
            with self.subTest(one["method"]["key"]):
                self.assertLess(one["takes_low_ph"], one["takes_high_ph"])
                self.assertLessEqual({placed["fly"]["name"] for placed in one["flies"]}, owned)
                self.assertEqual(len(one["seats"]), len(one["flies"]))
                self.assertLessEqual(len(one["flies"]), 3)  # the rule of this water
                self.assertEqual(one["ladder"][0]["changes"], "start")
                self.assertGreater(sum(cut["cut_m"] for cut in one["build"]["cuts"]), one["build"]["total_m"])
                self.assertEqual((one["landing"] is None), (one["action"]["kind"] != "hang"))
        self.assertIn(told["second_rod"]["method_key"], keys[1:])
        lines = set(Line.objects.filter(owner=self.angler).values_list("name", flat=True))
        self.assertEqual({line["name"] for line in told["lines"]}, lines)
        takes = [line["takes_ph"] for line in told["lines"]]
        self.assertEqual(takes, sorted(takes, reverse=True))
        self.assertFalse(told["ranked"][0]["as_good"])

    def test_the_run_that_won_travels_with_its_choice_and_is_that_of_a_script_that_asks_again(self) -> None:
        told = self.ask(boat=True).json()
        wind = conditions(self.water)["wind_speed_mps"]
        for one in told["ranked"]:
            rig = {"line": one["line"], "leader": one["leader"], "flies": one["flies"]}
            asked = {**told["water"], "wind_speed_mps": wind, "fished": {"rig": rig, "action": one["action"]}}
            again = self.post("/api/runs", asked).json()
            with self.subTest(one["method"]["key"]):
                self.assertEqual(
                    [fly["name"] for fly in one["run"]["flies"]], [placed["fly"]["name"] for placed in one["flies"]]
                )
                for fly, own in zip(again["flies"], one["run"]["flies"], strict=True):
                    self.assertAlmostEqual(fly["high_m"], own["high_m"], delta=0.1)
                    # What floats has nothing to be unsure of.
                    wide = max(deep - shallow for shallow, deep in zip(own["shallow_m"], own["deep_m"], strict=True))
                    self.assertGreater(wide, 0.02 if own["high_m"] > 0.3 else -1.0)
                self.assertEqual((one["run"]["indicator"] is None), (one["action"]["kind"] != "hang"))
                # Cast across the wind it is seen from above too; before a boat or in tow nothing goes sideways.
                above = one["run"]["side"]
                across = one["action"].get("off_wind_deg") == 90.0
                self.assertEqual(above is not None, across)
                if above is not None:
                    self.assertEqual(len(above["bow_m"]), len(one["run"]["thread_across_m"]))
                    self.assertTrue(above["words"])
                    self.assertGreater(max(above["bow_m"]), 0.05)

    def weigh(self, one: dict[str, Any], *, asked: dict[str, Any] | None = None, **changes: Any) -> Any:
        """Weigh a choice, with a part of its action changed."""
        rig = {"line": one["line"], "leader": one["leader"], "flies": one["flies"]}
        choices = {"conditions": conditions(self.water), "boat": True, **(asked or {})}
        fished = {"rig": rig, "action": {**one["action"], **changes}}
        return self.post("/api/weighings", {"choices": choices, "method_key": one["method"]["key"], "fished": fished})

    def test_any_choice_is_weighed_again_the_same_and_otherwise_when_one_thing_is_changed(self) -> None:
        ranked = {one["method"]["key"]: one for one in self.ask(boat=True).json()["ranked"]}
        for key, one in ranked.items():
            again = self.weigh(one).json()
            own = [rung for rung in one["ladder"] if rung["changes"] != "method"]
            with self.subTest(key):
                # What is sent is rounded to be read: a hundredth of a take is within that.
                self.assertAlmostEqual(again["takes_ph"], one["takes_ph"], delta=0.01)
                for name in ("line", "build", "landing"):
                    self.assertEqual(again[name], one[name], name)
                for seat, own_seat in zip(again["seats"], one["seats"], strict=True):
                    self.assertEqual((seat["place"], seat["fly_name"]), (own_seat["place"], own_seat["fly_name"]))
                    self.assertAlmostEqual(seat["high_m"], own_seat["high_m"], delta=0.05)
                self.assertEqual([rung["changes"] for rung in again["ladder"]], [rung["changes"] for rung in own])
        other = ranked["sinker"]["action"]["count_s"] + 25.0
        counted = self.weigh(ranked["sinker"], count_s=other).json()
        self.assertNotEqual(counted["takes_ph"], ranked["sinker"]["takes_ph"])
        self.assertIn(f"count {other:.0f},", counted["ladder"][0]["words"]["text"])
        deeper = self.weigh(ranked["indicator"], set_depth_m=8.0).json()
        self.assertEqual((deeper["action"]["set_depth_m"], deeper["landing"]["ok"]), (8.0, True))
        self.assertAlmostEqual(sum(cut["finished_m"] for cut in deeper["build"]["cuts"]), 8.9, delta=0.05)
        slower = self.weigh(ranked["tow"], tow_mps=0.2).json()
        self.assertGreater(slower["high_m"], ranked["tow"]["low_m"])

    def test_it_is_weighed_under_the_question_that_the_plan_was_asked(self) -> None:
        calm = conditions(self.water, wind_speed_mps=0.5, cloud_fraction=0.0)
        shelf = conditions(self.water, far_bottom_depth_m=3.0)
        for asked, key in (
            ({"cast_m": 13.0, "conditions": shelf}, "sinker"),
            ({"pressed": True, "conditions": calm}, "tip"),
            ({"pins": {"leader": LEADER}}, "indicator"),
        ):
            one = next(r for r in self.ask(thorough=False, **asked).json()["ranked"] if r["method"]["key"] == key)
            again = self.weigh(one, asked=asked).json()
            with self.subTest(list(asked)):
                self.assertAlmostEqual(again["takes_ph"], one["takes_ph"], delta=0.0015)
                self.assertEqual((again["leader"], again["build"] is None), (one["leader"], one["build"] is None))
        moved = next(r for r in self.ask(pressed=True, conditions=calm, thorough=False).json()["ranked"] if r["method"]["key"] == "sinker")  # fmt: skip
        takes = [self.weigh(moved, asked={"pressed": p, "conditions": calm}).json()["takes_ph"] for p in (True, False)]
        self.assertLess(takes[0], 0.8 * takes[1])

    def test_what_may_not_or_cannot_be_weighed_is_refused_at_its_field(self) -> None:
        ranked = {one["method"]["key"]: one for one in self.ask(boat=True).json()["ranked"]}
        hung = ranked["indicator"]
        cases: tuple[tuple[dict[str, Any], dict[str, Any], str], ...] = (
            (ranked["sinker"], {"count_s": 301.0}, "fished.action.cast.count_s"),
            ({**ranked["sinker"], "method": {"key": "spoon"}}, {}, "method_key"),
            ({**ranked["sinker"], "method": {"key": "indicator"}}, {}, "method_key"),
            (hung, {"set_depth_m": 0.8}, "set_depth_m"),
        )
        for one, changes, field in cases:
            answer = self.weigh(one, **changes)
            with self.subTest(field):
                self.assertEqual((answer.status_code, list(answer.json()["fields"])), (422, [field]), answer.content)
        self.water.rules = {"indicators": False}
        self.water.save()
        self.assertEqual(self.weigh(hung).json()["detail"], "Indicators are not allowed on this water.")

    def test_what_is_decided_stays_and_what_cannot_be_is_answered_with_the_reason(self) -> None:
        pinned = {"method_key": "sinker", "line_name": "Type 5 sinker", "fly_name": "Black marabou leech", "leader": LEADER}
        (one,) = self.ask(pins=pinned).json()["ranked"]
        self.assertEqual((one["line"]["name"], one["flies"][0]["fly"]["name"]), ("Type 5 sinker", "Black marabou leech"))
        self.assertIsNone(one["build"])  # his own leader: nothing to cut
        self.water.rules = {"indicators": False}
        self.water.save()
        refused = self.ask(pins={"method_key": "indicator"})
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "no_answer"))
        self.assertIn("Indicators are not allowed", refused.json()["detail"])
        wrongs: tuple[dict[str, Any], ...] = ({"school_key": "x"}, {"rod_m": 9}, {"cast_m": 200}, {"pins": {"leader": {}}})
        for wrong in wrongs:
            self.assertEqual(self.ask(**wrong).status_code, 422, wrong)

    def test_an_empty_box_and_a_fly_that_is_used_up_are_not_planned_with(self) -> None:
        Fly.objects.filter(owner=self.angler).exclude(name="Black marabou leech").update(left=0)
        told = self.ask().json()
        self.assertEqual({placed["fly"]["name"] for one in told["ranked"] for placed in one["flies"]}, {"Black marabou leech"})
        Line.objects.filter(owner=self.angler).delete()
        self.assertEqual(self.ask().json()["code"], "no_answer")

    def test_leaders_are_cut_from_the_spools_and_lines_fit_the_rod(self) -> None:
        Spool.objects.filter(owner=self.angler).delete()
        Spool.objects.create(owner=self.angler, name="Mine", material="fluorocarbon", diameter_m=0.00022)
        heavy = Line.objects.filter(owner=self.angler, name="Type 3 sinker").update(number=8)
        self.assertEqual(heavy, 1)
        told = self.ask(rod_number=6).json()
        self.assertEqual(told["not_for_the_rod"], ["Type 3 sinker (8)"])
        self.assertNotIn("Type 3 sinker", {one["line"]["name"] for one in told["ranked"]})
        for one in told["ranked"]:
            self.assertEqual(one["leader"]["sections"][-1]["diameter_m"], one["build"]["tippet_diameter_m"])
            if "no spool you have is near it" not in one["build"]["tippet_why"]:
                self.assertEqual(one["build"]["tippet_diameter_m"], 0.00022)
        # What is decided is decided, and any rod casts it.
        (pinned,) = self.ask(rod_number=6, pins={"method_key": "sinker", "line_name": "Type 3 sinker"}).json()["ranked"]
        self.assertEqual(pinned["line"]["number"], 8)
        self.assertEqual(self.ask().json()["not_for_the_rod"], [])

    def test_a_fly_keeps_what_it_imitates_and_how_many_are_left(self) -> None:
        kept = self.post("/api/flies", {**FLY, "name": "Mine", "foods": ["leech"], "style": "lure", "left": 7}).json()
        self.assertEqual((kept["foods"], kept["style"], kept["left"]), (["leech"], "lure", 7))
        self.assertEqual(self.post("/api/flies", {**FLY, "foods": ["bread"]}).status_code, 422)

    def test_the_days_windows_are_a_calendar_that_a_general_reader_reads(self) -> None:
        answer = self.post("/api/calendars", {"conditions": conditions(self.water)})
        self.assertIn("text/calendar", answer["Content-Type"])
        events = Calendar.from_ical(answer.content).walk("VEVENT")
        self.assertGreaterEqual(len(events), 2)
        for event in events:
            self.assertLess(event.decoded("dtstart"), event.decoded("dtend"))
            self.assertEqual(str(event["location"]), "Brennholt Reservoir")

    def test_a_leader_is_built_to_a_target_and_kept_in_the_box(self) -> None:
        # Common practice: 15 ft with 7 ft of thin section and 2 ft below the swivel needs a splice of 6 ft.
        foot = 0.3048
        asked = {"under_indicator": True, "length_m": 15 * foot, "thin_m": 7 * foot, "below_m": 2 * foot, "rod_m": 2.75}
        told = self.post("/api/leader-builds", asked).json()
        splice = next(cut for cut in told["build"]["cuts"] if cut["what"] == "splice")
        self.assertAlmostEqual(splice["finished_m"] / foot, 6.0)
        self.assertFalse(told["landing"]["ok"])
        self.assertEqual(self.post("/api/leaders", told["leader"]).status_code, 201)
        refused = self.post("/api/leader-builds", {"length_m": 3.0, "droppers_m": [1.0, 1.1]})
        self.assertEqual((refused.status_code, list(refused.json()["fields"])), (422, ["droppers"]))
