"""What a person may send is bounded where the core says, and answered at its field."""

from __future__ import annotations

from typing import Any

from project.tests.people import PeopleTestCase, conditions, presentation
from stillthread.api import Range, ranges

CONDITIONS = {
    "wind_speed_mps": ranges.WIND_MPS, "wind_from_deg": ranges.WIND_FROM_DEG, "cloud_fraction": ranges.SHARE,
    "secchi_m": ranges.SECCHI_M, "far_bottom_depth_m": ranges.BOTTOM_DEPTH_M, "weed_m": ranges.WEED_M,
}  # fmt: skip
CAST = {"cast_m": ranges.CAST_M, "count_s": ranges.COUNT_S, "retrieve_mps": ranges.RETRIEVE_MPS, "slack": ranges.SLACK,
        "tip_mps": ranges.TIP_MPS}  # fmt: skip


def outside(valid: Range) -> tuple[float, float]:
    step = 0.01 * (valid.high - valid.low)
    return valid.low - step, valid.high + step


class RangeTests(PeopleTestCase):
    def refused_at(self, path: str, body: dict[str, Any], field: str) -> None:
        answer = self.post(path, body)
        self.assertEqual(answer.status_code, 422, f"{field} {body}")
        self.assertIn(field, {name.split(".")[-1] for name in answer.json()["fields"]})

    def test_a_condition_is_taken_at_its_bounds_and_refused_beyond(self) -> None:
        for field, valid in CONDITIONS.items():
            for value in (valid.low, valid.high):
                with self.subTest(field, value=value):
                    self.assertEqual(self.post("/api/pictures", conditions(self.water, **{field: value})).status_code, 200)
            for value in outside(valid):
                with self.subTest(field, value=value):
                    self.refused_at("/api/pictures", conditions(self.water, **{field: value}), field)

    def test_a_cast_beyond_its_bounds_is_refused_at_its_field(self) -> None:
        for field, valid in CAST.items():
            for value in outside(valid):
                with self.subTest(field, value=value):
                    body = {"conditions": conditions(self.water), "fished": presentation({field: value})}
                    self.refused_at("/api/simulations", body, field)

    def test_every_range_is_a_range(self) -> None:
        every = {name: value for name, value in vars(ranges).items() if isinstance(value, Range)}
        self.assertGreater(len(every), 45)
        for name, valid in every.items():
            with self.subTest(name):
                self.assertLess(valid.low, valid.high)
                # The unit of a name is its last part, as everywhere.
                ending = {"m": "_M", "C": "_C", "s": "_S", "deg": "_DEG", "km": "_KM", "kg": "_KG", "mg/L": "_MGL"}.get(
                    valid.unit, ""
                )
                self.assertTrue(name.endswith(ending), f"{name} in {valid.unit}")
