"""Charts in the store: files taken over whole or not at all, bottoms drawn anew, rules that bind the plan."""

from __future__ import annotations

import json
from typing import Any

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile

from demo.lakes import BRENNHOLT_LAKE
from project.tests.people import FLY, LEADER, LINE, PeopleTestCase, conditions
from stillthread.api import sentence
from waters.soundings import survey_points


def csv_soundings(count: int, seed: int = 1) -> bytes:
    rng = np.random.default_rng(seed)
    xy = rng.uniform((-500.0, -1100.0), (600.0, 1100.0), (count, 2))
    rows = np.column_stack((BRENNHOLT_LAKE.plane.to_lonlat(xy), BRENNHOLT_LAKE.depth_m(xy)))
    return b"lon,lat,depth_m\n" + b"\n".join(b"%.7f,%.7f,%.2f" % tuple(row) for row in rows)


class ChartTests(PeopleTestCase):
    def path(self, tail: str) -> str:
        return f"/api/waters/{self.water.pk}/{tail}"

    def send(self, data: bytes, name: str = "file", **form: Any) -> Any:
        return self.client.post(self.path("chart-files"), {"file": SimpleUploadedFile(name, data), **form})

    def chart(self) -> dict[str, Any]:
        found: dict[str, Any] = self.client.get(self.path("chart")).json()
        return found

    def test_a_water_without_a_chart_says_so_and_asks_for_an_outline(self) -> None:
        self.assertEqual((self.chart()["rings"], self.chart()["grid"]), ([], None))
        refused = self.post(self.path("shores"), {"wind_speed_mps": 5, "wind_from_deg": 180})
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "no_outline"))
        cut = self.post(self.path("sections"), {"start": [0, 0], "end": [100, 0]})
        self.assertEqual(cut.json()["code"], "no_soundings")

    def test_an_outline_sets_the_longest_open_stretch_and_bad_ones_change_nothing(self) -> None:
        self.assertEqual(self.client.put(self.path("outline"), {"geometry": BRENNHOLT_LAKE.geometry()}, content_type="application/json").status_code, 200)  # fmt: skip
        self.water.refresh_from_db()
        self.assertAlmostEqual(self.water.fetch_km, 2.3, delta=0.1)
        before = self.water.outline
        bad = {"type": "Polygon", "coordinates": [[[9.4, 61.2], [9.41, 61.21], [9.41, 61.2], [9.4, 61.21], [9.4, 61.2]]]}
        refused = self.put(self.path("outline"), {"geometry": bad})
        self.assertIn("crosses itself", refused.json()["fields"]["outline"])
        self.water.refresh_from_db()
        self.assertEqual(self.water.outline, before)

    def test_an_outline_drawn_on_the_map_is_kept_in_degrees(self) -> None:
        ring = [[-200, -200], [200, -200], [200, 200], [-200, 200]]
        drawn = self.put(self.path("outline"), {"ring_m": ring}).json()
        self.assertAlmostEqual(drawn["area_m2"], 160_000.0, delta=10.0)
        self.water.refresh_from_db()
        assert self.water.outline is not None
        self.assertAlmostEqual(self.water.outline["coordinates"][0][0][1], 61.1982, delta=0.0002)
        self.assertEqual(self.put(self.path("outline"), {}).json()["rings"], [])

    def test_two_hundred_thousand_soundings_are_kept_whole_and_drawn(self) -> None:
        self.put(self.path("outline"), {"geometry": BRENNHOLT_LAKE.geometry()})
        told = self.send(csv_soundings(200_000), "lake.csv").json()
        self.assertEqual(told["soundings"], 200_000)
        survey = self.client.get(self.path("surveys")).json()["items"][0]
        self.assertEqual((survey["name"], survey["count"]), ("lake.csv", 200_000))
        self.assertGreater(self.chart()["grid"]["deepest_m"], 11.0)
        self.assertEqual(len(survey_points(self.water.surveys.get())), 200_000)

    def test_a_file_is_taken_over_whole_or_not_at_all(self) -> None:
        self.chart_water()
        before = self.chart()
        mark = {"type": "Feature", "properties": {"name": "New"}, "geometry": {"type": "Point", "coordinates": [9.4, 61.2]}}
        far = {"type": "Feature", "properties": {"name": "Far"}, "geometry": {"type": "Point", "coordinates": [19.4, 61.2]}}
        refused = self.send(json.dumps({"type": "FeatureCollection", "features": [mark, far]}).encode())
        self.assertEqual(refused.status_code, 422)
        self.assertIn("from the water", refused.json()["detail"])
        self.assertEqual(self.chart(), before)
        for data, words in (
            (b"", "empty"),
            (b"\x00\x01", "not text"),
            (b"$SDDPT,1.0,*00", "wrong checksum"),
            (b"<gpx", "not GPX"),
        ):
            with self.subTest(words):
                self.assertIn(words, self.send(data).json()["detail"])
        self.assertEqual(self.chart(), before)

    def test_the_chart_goes_out_and_comes_back_the_same(self) -> None:
        self.chart_water()
        saved = self.client.get(self.path("chart.geojson"))
        gpx = self.client.get(self.path("marks.gpx")).content
        before = self.chart()
        self.put(self.path("outline"), {})
        for survey in self.client.get(self.path("surveys")).json()["items"]:
            self.client.delete(self.path(f"surveys/{survey['id']}"))
        for mark in self.client.get(self.path("marks")).json()["items"]:
            self.client.delete(self.path(f"marks/{mark['id']}"))
        self.assertEqual(self.chart()["soundings"], 0)
        self.assertEqual(self.send(gpx, "marks.gpx").json()["marks_added"], 8)
        told = self.send(saved.content, "chart.geojson").json()
        self.assertEqual((told["outline"], told["marks_changed"]), (True, 8))
        after = self.chart()
        for part in ("rings", "soundings", "grid", "drop_offs"):
            self.assertEqual(after[part], before[part], part)

    def test_a_sounders_log_becomes_soundings(self) -> None:
        self.put(self.path("outline"), {"geometry": BRENNHOLT_LAKE.geometry()})
        log = b""
        for i in range(40):
            lat = 61.2 + 0.0001 * (i % 8)
            minutes, east = f"61{60.0 * (lat - 61.0):07.4f}", f"009{60.0 * (0.4 + 0.0002 * (i // 8)):07.4f}"
            log += sentence("GP", "GGA", ["080000", minutes, "N", east, "E", "1", "8", "1", "412", "M", "", "M", "", ""])
            log += sentence("SD", "DPT", [f"{8 + 0.1 * i:.1f}", "0.2", ""])
        told = self.send(log + b"$SDDPT,9.0,0.2,*00\r\n", "drift.nmea").json()
        self.assertEqual(told["soundings"], 40)
        self.assertIn("1 sentences had a wrong checksum", told["notes"][0])

    def test_standing_on_the_lip_says_where_the_casts_go_and_what_a_turn_changes(self) -> None:
        self.chart_water()
        told = self.post(self.path("standings"), {"x_m": 345, "y_m": 640, "wind_speed_mps": 6, "wind_from_deg": 180}).json()
        self.assertLess(told["depth_m"], 6.0)
        self.assertGreater(told["casts"][0]["far_depth_m"], told["casts"][1]["far_depth_m"])
        self.assertEqual(len(told["rose_m"]), 72)
        self.assertEqual([turn["from_deg"] for turn in told["turned"]], [90.0, 135.0, 225.0, 270.0, 0.0])
        picture = self.post("/api/pictures", conditions(self.water, place={"latitude_deg": told["latitude_deg"], "longitude_deg": told["longitude_deg"]})).json()  # fmt: skip
        self.assertIn("Where you stand", picture["wind_notes"][0]["text"])
        self.assertIn("from the water", self.post(self.path("standings"), {"x_m": 9000, "y_m": 0}).json()["detail"])

    def test_marks_are_ranked_and_kept_near_their_water(self) -> None:
        self.chart_water()
        starts = self.post("/api/starts", conditions(self.water)).json()["starts"]
        self.assertEqual(starts[0]["score"], 1.0)
        self.assertNotIn("Boat jetty", [start["name"] for start in starts])
        twice = {"name": "Dam wall", "latitude_deg": 61.2, "longitude_deg": 9.4}
        self.assertEqual(self.post(self.path("marks"), twice).json()["code"], "name_taken")
        away = self.post(self.path("marks"), twice | {"name": "Away", "latitude_deg": 9.4, "longitude_deg": 61.2})
        self.assertEqual(away.status_code, 422)

    def test_moving_a_water_away_from_its_outline_is_refused_and_a_little_way_redraws_it(self) -> None:
        self.chart_water()
        body = self.client.get(f"/api/waters/{self.water.pk}").json()
        far = self.put(f"/api/waters/{self.water.pk}", body | {"latitude_deg": 50.0})
        self.assertEqual(list(far.json()["fields"]), ["latitude_deg"])
        self.assertEqual(self.put(f"/api/waters/{self.water.pk}", body | {"latitude_deg": 61.201}).status_code, 200)
        deepest = self.post(self.path("standings"), {"x_m": 0, "y_m": -111.4}).json()["depth_m"]
        self.put(f"/api/waters/{self.water.pk}", body)
        self.assertAlmostEqual(deepest, self.post(self.path("standings"), {"x_m": 0, "y_m": 0}).json()["depth_m"], delta=0.7)


class RuleTests(PeopleTestCase):
    def test_a_plan_never_breaks_the_waters_rules_and_says_which(self) -> None:
        def asked(flies: list[dict[str, Any]]) -> dict[str, Any]:
            rig = {"line": LINE, "leader": LEADER, "flies": flies}
            cast = {"kind": "cast", "count_s": 5, "retrieve_key": "strip-pause"}
            return {"conditions": conditions(self.water), "fished": {"rig": rig, "action": cast}}

        one: list[dict[str, Any]] = [{"fly": FLY}]
        two = [*one, {"fly": FLY, "above_point_m": 1.0}]
        for rules, flies, words in (
            ({"most_flies": 1}, two, "At most 1 fly."),
            ({"largest_hook": 16}, one, "No hook larger than 16."),
            ({"opens": "09-01", "closes": "10-31"}, one, "closed on 14 July"),
        ):
            with self.subTest(words):
                self.water.rules = rules
                self.water.save()
                refused = self.post("/api/simulations", asked(flies))
                self.assertEqual((refused.status_code, refused.json()["code"]), (422, "against_the_rules"))
                self.assertIn(words, refused.json()["detail"])

    def test_rules_are_said_in_words_with_the_licence_last(self) -> None:
        said = self.client.get(f"/api/waters/{self.water.pk}").json()["rule_words"]
        self.assertEqual(said[0], "Open from 15 April to 31 October.")
        self.assertEqual(said[-1], "Local rules and your licence come first.")

    def test_a_closed_day_is_read_with_a_stop(self) -> None:
        told = self.post("/api/pictures", conditions(self.water, at_local="2026-11-20T10:00")).json()
        self.assertEqual((told["cautions"][0]["key"], told["cautions"][0]["level"]), ("closed", "stop"))

    def test_half_a_season_or_a_day_that_is_none_is_refused(self) -> None:
        body = self.client.get(f"/api/waters/{self.water.pk}").json()
        for rules in ({"opens": "04-15"}, {"opens": "02-30", "closes": "10-01"}, {"opens": "spring", "closes": "10-01"}):
            self.assertEqual(self.put(f"/api/waters/{self.water.pk}", body | {"rules": rules}).status_code, 422, rules)
