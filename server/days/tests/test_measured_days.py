"""A day keeps all that was measured, and gives the same picture when it is asked again."""

from __future__ import annotations

from typing import Any

from days.models import Day
from project.tests.people import PeopleTestCase, conditions

MEASURED: dict[str, Any] = {
    "readings": [{"depth_m": 0.0, "water_c": 18.6}, {"depth_m": 4.0, "water_c": 24.0, "trusted": True}, {"depth_m": 8.0, "water_c": 10.0}],
    "oxygen": [{"depth_m": 0.0, "oxygen_mgl": 9.1}, {"depth_m": 6.0, "oxygen_mgl": 3.2}, {"depth_m": 8.0, "oxygen_mgl": 5.5}],
    "read_at_local": "2026-07-14T10:05",
    "earlier": [{"at_local": "2026-07-14T06:30", "readings": [{"depth_m": 0.0, "water_c": 16.9}, {"depth_m": 12.0, "water_c": 6.0}]}],
    "place": {"latitude_deg": 61.2034, "longitude_deg": 9.4021},
    "signs": ["shucks"],
    "sample": {"items": [{"food_key": "midge-pupa", "count": 9, "size_mm": 6.0, "colour": "red"}], "age_h": 1.0},
}  # fmt: skip


class MeasuredDayTests(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.sent = conditions(self.water, **MEASURED)
        self.assertEqual(self.put(f"/api/days/{self.day_id}", self.sent).status_code, 201)

    def test_everything_comes_back_as_it_was_sent(self) -> None:
        read = self.client.get(f"/api/days/{self.day_id}").json()["conditions"]
        self.assertEqual(read["oxygen"], [{**one, "trusted": False} for one in MEASURED["oxygen"]])
        self.assertEqual(read["read_at_local"], "2026-07-14T10:05:00")
        self.assertEqual(read["place"], MEASURED["place"])
        self.assertEqual([reading["trusted"] for reading in read["readings"]], [False, True, False])
        self.assertEqual(read["earlier"][0]["readings"][1], {"depth_m": 12.0, "water_c": 6.0, "trusted": False})
        self.assertEqual(read["sample"]["items"][0]["colour"], "red")

    def test_the_picture_of_the_stored_day_is_the_picture_that_was_seen(self) -> None:
        seen = self.post("/api/pictures", self.sent).json()
        again = Day.objects.get(pk=self.day_id).conditions
        told = self.post("/api/pictures", again).json()
        for part in ("profile", "oxygen", "flags", "earlier", "livable_bands", "foods", "belief", "wind_notes"):
            self.assertEqual(told[part], seen[part], part)

    def test_of_two_lowerings_the_newest_counts_and_the_older_goes_on_below(self) -> None:
        told = self.post("/api/pictures", self.sent | {"bottom_depth_m": 13.0}).json()
        self.assertEqual([reading["depth_m"] for reading in told["readings"]], [0.0, 4.0, 8.0, 12.0])
        self.assertEqual(told["earlier"][0]["clock"], "06:30")
        swapped = self.sent | {"read_at_local": "2026-07-14T05:00"}
        self.assertEqual(self.post("/api/pictures", swapped).json()["readings"][0]["water_c"], 16.9)

    def test_bad_measurements_are_answered_at_their_field(self) -> None:
        for changes, field in (
            ({"oxygen": [{"depth_m": 0, "oxygen_mgl": 90}]}, "oxygen.0.oxygen_mgl"),
            ({"oxygen": [{"depth_m": 1, "oxygen_mgl": 9}, {"depth_m": 1, "oxygen_mgl": 8}]}, "oxygen"),
            ({"earlier": [{"at_local": "yesterday", "readings": []}]}, "earlier.0.at_local"),
            ({"place": {"latitude_deg": 95, "longitude_deg": 0}}, "place.latitude_deg"),
        ):
            with self.subTest(field):
                refused = self.post("/api/pictures", self.sent | changes)
                self.assertEqual(refused.status_code, 422)
                self.assertIn(field, refused.json()["fields"])
