"""Waters: stored once by name, refused at the field at fault."""

from __future__ import annotations

from typing import Any

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


class PlaceTests(PeopleTestCase):
    def place(self, text: str) -> dict[str, Any]:
        answer = self.client.get("/api/place", {"text": text})
        found: dict[str, Any] = {"status": answer.status_code, **answer.json()}
        return found

    def test_a_place_is_read_with_the_clock_that_is_kept_there(self) -> None:
        # Zones as the tz database names them; southern summer time and half hours are theirs to know.
        for text, zone in (
            ("61° 12′ N 8° 30′ E", "Europe/Oslo"),
            ("geo:-41.3,-72.6,780", "America/Santiago"), ("-44.5, 169.5", "Pacific/Auckland"),
            ("47.5 N 53.2 W", "America/St_Johns"), ("0, -30", "Etc/GMT+2"), ("90, 0", "Etc/GMT"),
        ):  # fmt: skip
            with self.subTest(text):
                found = self.place(text)
                self.assertEqual((found["status"], found["time_zone"]), (200, zone))
                # What is offered is taken.
                body = {**BODY, "name": text, "time_zone": zone}
                self.assertEqual(self.post("/api/waters", body).status_code, 201)
        self.assertEqual(self.place("geo:-41.3,-71.8,780")["altitude_m"], 780)
        self.assertEqual(self.place("-41.3, -71.8")["written"], "41° 18.000′ S 71° 48.000′ W")

    def test_what_is_no_place_is_answered_at_its_field(self) -> None:
        for text in ("", "the lake behind the mill", "91, 8", "8.5 O 61.2 N", "9" * 300):
            with self.subTest(text):
                found = self.place(text)
                self.assertEqual((found["status"], list(found["fields"])), (422, ["text"]))
