"""The box: what the core would not take is not stored."""

from __future__ import annotations

from django.core.files.uploadedfile import SimpleUploadedFile

from box.models import Fly, Leader, Line
from project.tests.people import FLY, LEADER, LINE, PeopleTestCase


class BoxTests(PeopleTestCase):
    def test_a_calibrated_rate_stays_with_the_line(self) -> None:
        line = self.first(Line) + 3
        self.put(f"/api/lines/{line}", {**LINE, "sink_rate_mps": 0.091, "calibrated": True})
        found = next(item for item in self.client.get("/api/lines").json()["items"] if item["id"] == line)
        self.assertEqual((found["sink_rate_mps"], found["calibrated"]), (0.091, True))

    def test_tackle_that_cannot_be_is_refused_and_not_stored(self) -> None:
        before = [kind._default_manager.count() for kind in (Line, Leader, Fly)]
        section = LEADER["sections"][1]
        for path, body in (
            ("/api/lines", {**LINE, "class_key": "type-99"}),
            ("/api/lines", {**LINE, "sink_rate_mps": 0.0}),
            ("/api/lines", {**LINE, "number": 12}),
            ("/api/lines", {**LINE, "class_key": "floating"}),
            ("/api/leaders", {"name": "none", "sections": []}),
            ("/api/leaders", {"name": "long", "sections": [{**section, "length_m": 8}] * 2}),  # type: ignore[dict-item]
            ("/api/leaders", {"name": "wire", "sections": [{**section, "material": "steel"}]}),  # type: ignore[dict-item]
            ("/api/flies", {**FLY, "hook_size": 11}),
            ("/api/flies", {**FLY, "bead": "tungsten", "bead_mm": 0.5}),
            ("/api/flies", {**FLY, "name": ""}),
        ):
            with self.subTest(path, body=body):
                answer = self.post(path, body)
                self.assertEqual(answer.status_code, 422, answer.content)
                self.assertTrue(answer.json()["fields"])
        self.assertEqual([kind._default_manager.count() for kind in (Line, Leader, Fly)], before)

    def test_each_item_says_what_the_core_makes_of_it(self) -> None:
        self.assertGreater(self.post("/api/flies", {**FLY, "bead": "tungsten", "bead_mm": 3}).json()["sink_rate_mps"], 0.2)
        self.assertLess(self.post("/api/flies", {**FLY, "foam_mm3": 200}).json()["sink_rate_mps"], 0.0)
        self.assertAlmostEqual(self.post("/api/leaders", LEADER).json()["length_m"], 3.7)

    def test_the_fly_box_goes_out_as_csv_and_comes_back_whole_or_not_at_all(self) -> None:
        saved = self.client.get("/api/flies.csv").content
        Fly.objects.filter(owner=self.angler).delete()
        told = self.client.post("/api/fly-files", {"file": SimpleUploadedFile("flies.csv", saved)}).json()
        self.assertEqual(told, {"added": 60, "changed": 0})
        self.assertEqual(self.client.get("/api/flies.csv").content, saved)
        bad = saved.replace(b"Pin fry,fry,natural,silver,12", b"Pin fry,fry,natural,silver,13")
        refused = self.client.post("/api/fly-files", {"file": SimpleUploadedFile("flies.csv", bad)})
        self.assertEqual(refused.status_code, 422)
        self.assertIn("hook size 13", refused.json()["detail"])
        self.assertEqual(self.client.get("/api/flies.csv").content, saved)

    def test_lines_and_leaders_go_out_as_csv_and_come_back_whole_or_not_at_all(self) -> None:
        self.post("/api/leaders", {**LEADER, "hardware": [{"kind": "swivel", "above_point_m": 0.6}]})
        own = {"name": "Mine", "class_key": "own", "number": 7, "sink_rate_mps": 0.12, "calibrated": True}
        self.post("/api/lines", {**own, "stretches": [{"length_m": 3, "sink_rate_mps": 0.12}, {"length_m": 30, "sink_rate_mps": 0}]})  # fmt: skip
        for part, model, files, spoil in (
            ("lines", Line, "line-files", (b"type-3", b"type-33")),
            ("leaders", Leader, "leader-files", (b"nylon", b"steel")),
        ):
            with self.subTest(part):
                before = self.client.get(f"/api/{part}").json()
                saved = self.client.get(f"/api/{part}.csv").content
                again = self.client.post(f"/api/{files}", {"file": SimpleUploadedFile("a.csv", saved)}).json()
                self.assertEqual(again, {"added": 0, "changed": before["count"]})
                model._default_manager.filter(owner=self.angler).delete()
                told = self.client.post(f"/api/{files}", {"file": SimpleUploadedFile("a.csv", saved)}).json()
                self.assertEqual(told, {"added": before["count"], "changed": 0})
                after = self.client.get(f"/api/{part}").json()
                self.assertEqual([{**one, "id": 0} for one in after["items"]], [{**one, "id": 0} for one in before["items"]])
                refused = self.client.post(f"/api/{files}", {"file": SimpleUploadedFile("a.csv", saved.replace(*spoil))})
                self.assertEqual(refused.status_code, 422)
                self.assertIn("is not known", refused.json()["detail"])
                self.assertEqual(self.client.get(f"/api/{part}.csv").content, saved)

    def test_a_fly_lost_is_one_less_in_the_box(self) -> None:
        fly = self.client.get("/api/flies").json()["items"][0]
        less = self.put(f"/api/flies/{fly['id']}", {**fly, "left": fly["left"] - 1}).json()
        self.assertEqual(less["left"], fly["left"] - 1)
