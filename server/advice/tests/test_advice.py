"""What a script posts is what the core computes, and bad input is answered at its field."""

from __future__ import annotations

from typing import Any, get_args

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile

from advice.action_schemas import CastingIn
from advice.condition_schemas import AssumedName, ConditionsIn
from advice.payloads import cast_of, conditions_of, rig_of
from project.tests.people import FLY, LEADER, LINE, PeopleTestCase, conditions, presentation
from stillthread.api import NAMES, read_water, simulate, water_for


class AdviceTests(PeopleTestCase):
    def test_the_picture_is_the_cores(self) -> None:
        body = conditions(self.water)
        answer = self.post("/api/pictures", body).json()
        picture = read_water(conditions_of(self.angler, ConditionsIn.model_validate(body)))
        self.assertEqual(answer["layers"]["thermocline_m"], picture.layers.thermocline_m)
        self.assertAlmostEqual(answer["belief"]["mean_m"], picture.belief.mean_m)
        self.assertEqual([f["key"] for f in answer["belief"]["factors"]], [f.key for f in picture.belief.factors])
        self.assertEqual(answer["measured_share"], round(picture.measured_share, 3))

    def test_only_a_surface_reading_leaves_most_to_guess_and_readings_settle_it(self) -> None:
        surface = conditions(self.water, readings=[{"depth_m": 0, "water_c": 18.6}])
        guess = self.post("/api/pictures", surface).json()["measured_share"]
        read = self.post("/api/pictures", conditions(self.water)).json()["measured_share"]
        self.assertLess(guess, 0.5)
        self.assertGreater(read, 0.75)

    def test_the_day_strip_runs_on_the_waters_clock_and_follows_a_forecast(self) -> None:
        read = conditions(self.water, cloud_fraction=0.0)
        strip = self.post("/api/day-strips", {"conditions": read}).json()
        clocks = [hour["clock"] for hour in strip["hours"]]
        self.assertTrue(strip["hours"][0]["at"].endswith("+02:00"))
        self.assertIn("12:00", clocks)
        self.assertLess(strip["sunrise"], "06:00")
        noon = next(hour for hour in strip["hours"] if hour["clock"] == "12:00")
        cloudy = [{"at": "2026-07-14T10:00:00Z", "cloud_fraction": 1.0, "wind_speed_mps": 4.0}]
        under_cloud = self.post("/api/day-strips", {"conditions": read, "forecast": cloudy}).json()
        dull = next(hour for hour in under_cloud["hours"] if hour["clock"] == "12:00")
        self.assertLess(dull["brightness"], 0.4 * noon["brightness"])
        self.assertLess(dull["mean_m"], noon["mean_m"])
        bad = self.post("/api/day-strips", {"conditions": read, "forecast": [{**cloudy[0], "at": "2026-07-14T10:00"}]})
        self.assertEqual(bad.status_code, 422)

    def test_the_wind_says_where_to_cast(self) -> None:
        notes = self.post("/api/pictures", conditions(self.water, wind_from_deg=270.0)).json()["wind_notes"]
        self.assertIn("toward N or S", notes[0]["text"])
        self.assertIn("E shore", notes[0]["text"])

    def test_signs_and_a_sample_move_the_food_and_the_belief(self) -> None:
        evening = conditions(self.water, at_local="2026-05-20T19:00", bottom_depth_m=5.0)
        usual = self.post("/api/pictures", evening).json()
        self.assertAlmostEqual(sum(food["probability"] for food in usual["foods"]), 1.0, delta=0.001)
        self.assertTrue(usual["look_for"]["asks"])
        rising = self.post("/api/pictures", {**evening, "signs": ["sips", "shucks"]}).json()
        self.assertEqual(rising["foods"][0]["key"], "midge-film")
        self.assertLess(rising["belief"]["mean_m"], usual["belief"]["mean_m"])
        sample = {"items": [{"food_key": "shrimp", "count": 6, "size_mm": 11}]}
        self.assertEqual(self.post("/api/pictures", {**evening, "sample": sample}).json()["foods"][0]["key"], "shrimp")

    def test_the_simulated_depths_are_the_cores(self) -> None:
        body = conditions(self.water)
        answer = self.post("/api/simulations", {"conditions": body, "fished": presentation()}).json()
        one = CastingIn.model_validate(presentation())
        cast = cast_of(one.action, body["wind_speed_mps"])
        picture = read_water(conditions_of(self.angler, ConditionsIn.model_validate(body)))
        result = simulate(rig_of(one.rig), cast, water_for(picture, cast.cast_m))
        self.assertAlmostEqual(answer["choice"]["deepest_m"], result.deepest_m(), delta=0.0011)
        self.assertAlmostEqual(max(answer["flies"][0]["depth_m"]), result.deepest_m(), delta=0.05)
        fly = answer["flies"][0]
        self.assertTrue(all(s <= d <= e for s, d, e in zip(fly["shallow_m"], fly["depth_m"], fly["deep_m"], strict=True)))
        self.assertGreater(max(np.subtract(fly["deep_m"], fly["shallow_m"])), 0.2)
        self.assertAlmostEqual(answer["choice"]["plain_sum_m"], 0.0762 * 20.0, places=3)
        self.assertEqual(len(answer["time_s"]), len(answer["thread_depth_m"]))
        self.assertTrue(np.all(np.diff(answer["time_s"]) > 0))

    def test_how_much_they_feed_is_told_apart_from_where_they_are(self) -> None:
        def told(water_c: float) -> Any:
            body = conditions(self.water, readings=[{"depth_m": 0, "water_c": water_c}], at_local="2026-05-20T11:00")
            return self.post("/api/pictures", body).json()["activity"]

        shares = [told(water_c)["share"] for water_c in (2.0, 8.0, 14.0)]
        self.assertEqual(shares, sorted(shares))
        self.assertLess(shares[0], 0.1)
        self.assertIn("hardly feed", told(2.0)["why"]["text"])
        self.assertEqual(set(told(2.0)["why"]["values"]), {"at_c", "share_pct"})


class RunTests(PeopleTestCase):
    """Any method, any water, as a script may ask."""

    def run_of(self, fished: dict[str, Any], **what: Any) -> Any:
        return self.post("/api/runs", {"water_c": 12, "bottom": [{"distance_m": 0, "depth_m": 9}], "fished": fished, **what})

    def test_an_indicator_tells_where_each_fly_hangs_and_whether_the_float_carries_them(self) -> None:
        heavy = {"fly": {**FLY, "bead": "tungsten", "bead_mm": 3}}
        light = {"fly": FLY, "above_point_m": 1.2}
        rig = {"line": LINE, "leader": LEADER, "flies": [heavy, light]}
        hang = {"kind": "hang", "set_depth_m": 3.5}
        found = self.run_of(presentation(hang, rig=rig), wind_speed_mps=2).json()
        point, dropper = found["flies"]
        self.assertAlmostEqual(point["end_depth_m"] - dropper["end_depth_m"], 1.2, delta=0.15)
        self.assertTrue(found["indicator"]["carried"])
        self.assertGreater(found["indicator"]["recast_after_s"], 10)
        tiny = self.run_of(presentation({**hang, "diameter_m": 0.006}, rig=rig), wind_speed_mps=2).json()
        self.assertFalse(tiny["indicator"]["carried"])

    def test_a_tow_runs_shallower_the_faster_it_goes(self) -> None:
        depths = [
            self.run_of(presentation({"kind": "tow", "out_m": 25, "tow_mps": speed})).json()["flies"][0]["end_depth_m"]
            for speed in (0.2, 0.5, 1.0)
        ]
        self.assertEqual(depths, sorted(depths, reverse=True))

    def test_a_sink_tip_a_profile_of_ones_own_and_a_looped_leader_all_run(self) -> None:
        for line in (
            {"name": "tip", "class_key": "fast-tip", "sink_rate_mps": 0.15, "tip_m": 3.0},
            {"name": "mine", "class_key": "own", "sink_rate_mps": 0.1,
             "stretches": [{"length_m": 4, "sink_rate_mps": 0.1}, {"length_m": 20, "sink_rate_mps": 0}]},
            {"name": "looped", "class_key": "floating", "sink_rate_mps": 0,
             "looped": {"length_m": 3, "sink_rate_mps": 0.09}},
        ):  # fmt: skip
            cast = presentation(rig={"line": line, "leader": LEADER, "flies": [{"fly": FLY}]})
            answer = self.run_of(cast)
            self.assertEqual(answer.status_code, 200, answer.content[:200])
            self.assertGreater(answer.json()["flies"][0]["deepest_m"], 1.0)

    def test_what_cannot_be_presented_is_refused_by_name(self) -> None:
        hang = {"kind": "hang", "set_depth_m": 3.0}
        close = {"line": LINE, "leader": LEADER, "flies": [{"fly": FLY}, {"fly": FLY, "above_point_m": 2.95}]}
        for fished, what in (
            ({}, {}), (presentation({"kind": "fly away"}), {}), (presentation({**hang, "set_depth_m": 9.0}), {}),
            (presentation(hang, rig=close), {}), (presentation({"kind": "tow", "out_m": 3.5, "tow_mps": 1}), {}),
            (presentation(), {"bottom": [{"distance_m": 5, "depth_m": 3}, {"distance_m": 2, "depth_m": 4}]}),
            (presentation({"slack": 0.9}), {}), (presentation({"tip_mps": 5}), {}), ({"rig": close}, {}),
        ):  # fmt: skip
            with self.subTest(fished=fished, **what):
                answer = self.run_of(fished, **what)
                self.assertEqual(answer.status_code, 422)
                self.assertTrue(answer.json()["fields"])


class BadConditionsTests(PeopleTestCase):
    def refused(self, path: str, body: dict[str, Any], field: str) -> str:
        answer = self.post(path, body)
        self.assertEqual(answer.status_code, 422, answer.content[:200])
        problem = answer.json()
        self.assertTrue(any(name.split(".")[-1] == field for name in problem["fields"]), problem)
        return str(problem["detail"])

    def test_each_impossible_condition_is_named_at_its_field(self) -> None:
        cold, hot = [{"depth_m": 0, "water_c": -2}], [{"depth_m": 0, "water_c": 41}]
        twice = [{"depth_m": 0, "water_c": 15}, {"depth_m": 2, "water_c": 14}, {"depth_m": 2, "water_c": 13}]
        deep = [{"depth_m": 4, "water_c": 12}]
        for field, changes in (
            ("water_c", {"readings": cold}), ("water_c", {"readings": hot}), ("readings", {"readings": []}),
            ("readings", {"readings": twice}), ("readings", {"readings": deep}),
            ("readings", {"readings": [{"depth_m": i / 1000, "water_c": 12} for i in range(10_000)]}),
            ("wind_speed_mps", {"wind_speed_mps": -1}), ("wind_from_deg", {"wind_from_deg": 361}),
            ("cloud_fraction", {"cloud_fraction": 1.1}), ("secchi_m", {"secchi_m": 0}),
            ("bottom_depth_m", {"bottom_depth_m": 0.1}), ("at_local", {"at_local": "2031-01-01T10:00"}),
            ("at_local", {"at_local": "1066-10-14T09:00"}), ("at_local", {"at_local": "noonish"}),
            ("species", {"species": "pike"}), ("signs", {"signs": ["rainbow"]}), ("signs", {"signs": ["nothing", "sips"]}),
            ("food_key", {"sample": {"items": [{"food_key": "bread", "count": 1}]}}),
            ("count", {"sample": {"items": [{"food_key": "leech", "count": 0}]}}), ("water_id", {"water_id": "north arm"}),
        ):  # fmt: skip
            with self.subTest(field, **changes):
                self.refused("/api/pictures", conditions(self.water, **changes), field)

    def test_an_unknown_water_does_not_exist(self) -> None:
        self.assertEqual(self.post("/api/pictures", conditions(self.water, water_id=10**6)).status_code, 404)

    def test_a_retrieve_of_zero_and_a_leader_longer_than_the_water_are_refused(self) -> None:
        read = conditions(self.water)
        self.refused("/api/simulations", {"conditions": read, "fished": presentation({"retrieve_mps": 0})}, "retrieve_mps")
        shallow = conditions(self.water, bottom_depth_m=2.0)
        detail = self.refused("/api/simulations", {"conditions": shallow, "fished": presentation()}, "bottom_depth_m")
        self.assertIn("longer than the water is deep (2.0 m)", detail)
        meant = {"conditions": shallow, "fished": presentation(), "long_leader_ok": True}
        self.assertEqual(self.post("/api/simulations", meant).status_code, 200)

    def test_a_body_that_is_not_json_is_refused_in_the_one_shape(self) -> None:
        answer = self.client.post("/api/pictures", b"{", content_type="application/json")
        self.assertEqual(set(answer.json()), {"code", "detail", "fields"})
        self.assertIn(answer.status_code, (400, 422))


class ProfileFileTests(PeopleTestCase):
    def send(self, data: bytes, **units: str) -> Any:
        return self.client.post("/api/profile-files", {"file": SimpleUploadedFile("p.csv", data), **units})

    def test_feet_and_fahrenheit_come_back_in_si(self) -> None:
        for answer in (
            self.send(b"depth_ft;temp_F\n0;59\n10;50\n"),
            self.send(b"depth,temperature\n0,59\n10,50\n", depth_unit="ft", temperature_unit="F"),
        ):
            first, second = answer.json()["readings"]
            self.assertAlmostEqual(first["water_c"], 15.0)
            self.assertAlmostEqual(second["depth_m"], 3.048)
            self.assertAlmostEqual(second["water_c"], 10.0)

    def test_each_bad_file_is_refused_with_what_to_do(self) -> None:
        rows = b"".join(b"%d,10\n" % i for i in range(10_000))
        for data, words in (
            (b"", "empty"),
            (b"depth_m\n1\n2\n", "one column"),
            (b"depth_m,water_c\n0,warm\n", "'warm' is not a temperature"),
            (b"depth_m,water_c\n0,15\n3,14\n2,13\n", "Line 4: depth goes up (2)"),
            (b"depth_m,water_c\n0,59\n1,55\n", "Is it in Fahrenheit?"),
            (b"depth_m,water_c\n" + rows, "more than 2000 rows"),
            ("depth_m,water_c\n0,15 °".encode("latin-1"), "not UTF-8"),
            (b"\x89PNG\r\n\x1a\n\x00\x00", "not UTF-8"),
            (b"depth_m,water_c\n0,15\n" + b" " * 20_000_000, "larger than 1 MB"),
        ):
            with self.subTest(words):
                answer = self.send(data)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, answer.json()["detail"])
                self.assertEqual(list(answer.json()["fields"]), ["profile"])


class UnreadTests(PeopleTestCase):
    def test_what_nobody_read_is_said_with_its_doubt_and_its_worth_and_is_not_called_measured(self) -> None:
        names = ["surface_c", "wind_speed_mps", "wind_from_deg", "cloud_fraction", "secchi_m", "bottom_depth_m"]
        bare = conditions(self.water, readings=[{"depth_m": 0, "water_c": 12}], assumed=names)
        answer = self.post("/api/pictures", bare).json()
        self.assertEqual([each["name"] for each in answer["unread"]], names)
        self.assertLess(answer["measured_share"], 0.05)
        for each in answer["unread"]:
            self.assertTrue(each["low"] <= each["value"] <= each["high"] and each["why"]["text"] and each["narrows_m"] >= 0)
        # Whatever is sent in their places changes nothing.
        odd = {**bare, "readings": [{"depth_m": 0, "water_c": 31}], "wind_speed_mps": 17, "secchi_m": 1, "bottom_depth_m": 40}
        self.assertEqual(self.post("/api/pictures", odd).json(), answer)
        self.assertEqual(self.post("/api/pictures", {**bare, "assumed": ["mood"]}).status_code, 422)
        self.assertEqual(self.post("/api/pictures", {**bare, "assumed": ["secchi_m"] * 2}).status_code, 422)

    def test_an_earlier_lowering_knows_the_top(self) -> None:
        earlier = [{"at_local": "2026-07-14T08:00", "readings": [{"depth_m": 0, "water_c": 17.5}]}]
        asked = conditions(self.water, readings=[{"depth_m": 0, "water_c": 3}], assumed=["surface_c"], earlier=earlier)
        answer = self.post("/api/pictures", asked).json()
        self.assertEqual((answer["unread"], answer["readings"][0]["water_c"]), ([], 17.5))

    def test_one_more_thing_known_has_its_worth(self) -> None:
        told = self.post("/api/worths", conditions(self.water, readings=[{"depth_m": 0, "water_c": 19}])).json()
        self.assertGreater(told["sample_m"], 0)
        self.assertLess(told["sample_m"], told["searched_m"])

    def test_every_name_that_may_be_assumed_is_in_the_contract(self) -> None:
        self.assertEqual(get_args(AssumedName), NAMES)
