"""Waters: stored once by name, refused at the field at fault."""

from __future__ import annotations

from project.tests.people import PeopleTestCase
from waters.models import Water

BODY = {"name": "Upper tarn", "latitude_deg": 54.3, "longitude_deg": -2.6, "time_zone": "Etc/GMT"}


class WaterTests(PeopleTestCase):
    def test_a_water_is_added_changed_and_listed_by_name(self) -> None:
        added = self.post("/api/waters", BODY).json()
        changed = self.put(f"/api/waters/{added['id']}", {**BODY, "altitude_m": 310, "species": "brown"}).json()
        self.assertEqual((changed["altitude_m"], changed["species"]), (310, "brown"))
        names = [water["name"] for water in self.client.get("/api/waters").json()["items"]]
        self.assertEqual(names, ["Brennholt Reservoir", "Upper tarn"])

    def test_a_name_used_twice_and_impossible_places_are_refused(self) -> None:
        self.assertEqual(self.post("/api/waters", {**BODY, "name": "Brennholt Reservoir"}).status_code, 409)
        for field, value in (
            ("latitude_deg", 91), ("longitude_deg", -181), ("altitude_m", 9000), ("fetch_km", 0), ("time_zone", "Mars/North"),
            ("species", "pike"), ("name", "   "), ("name", "nul\x00"), ("usual_secchi_m", 0), ("usual_bottom_depth_m", 0),
        ):  # fmt: skip
            with self.subTest(field):
                answer = self.post("/api/waters", {**BODY, field: value})
                self.assertEqual((answer.status_code, list(answer.json()["fields"])), (422, [field]))
        self.assertEqual(Water.objects.count(), 1)
