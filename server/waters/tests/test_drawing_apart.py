"""The bottom is drawn while the store is free for others, and what is stored belongs together."""

from __future__ import annotations

from typing import Any
from unittest import mock

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import TransactionTestCase

from accounts.services import sign_up
from demo.lakes import BRENNHOLT_LAKE
from demo.season import BRENNHOLT
from project.tests.people import JSON, PASSWORD
from stillthread.api import depth_grid_of
from waters import soundings
from waters.models import DepthMap, Survey, Water
from waters.services import save_water

DRAWN_BY = "waters.soundings.depth_grid_of"


class DrawingApartTests(TransactionTestCase):
    def setUp(self) -> None:
        self.angler = sign_up(username="angler", password=PASSWORD)
        self.water = save_water(water=Water(owner=self.angler), changes=dict(BRENNHOLT))
        self.client.force_login(self.angler)
        self.held: list[bool] = []

    def watched(self, *args: Any) -> Any:
        self.held.append(connection.in_atomic_block)
        return depth_grid_of(*args)

    def points(self, count: int) -> tuple[Any, Any]:
        rng = np.random.default_rng(count)
        lonlat = np.column_stack((9.4 + rng.uniform(-0.004, 0.004, count), 61.2 + rng.uniform(-0.002, 0.002, count)))
        return lonlat, np.full(count, 5.0)

    def test_nothing_is_held_while_an_outline_a_survey_a_file_or_a_moved_place_is_drawn(self) -> None:
        at = f"/api/waters/{self.water.pk}"
        with mock.patch(DRAWN_BY, self.watched):
            soundings.add_survey(self.water, "first", *self.points(30))
            self.client.put(f"{at}/outline", {"geometry": BRENNHOLT_LAKE.geometry()}, content_type=JSON)
            moved = self.client.put(at, {**BRENNHOLT, "latitude_deg": 61.2003}, content_type=JSON)
            soundings.add_survey(self.water, "second", *self.points(40))
            self.client.delete(f"{at}/surveys/{Survey.objects.get(name='first').pk}")
        self.assertEqual(moved.status_code, 200, moved.content)
        self.assertEqual(self.held, [False] * 5)
        self.assertEqual(Survey.objects.get().name, "second")

    def test_a_chart_changed_by_another_meanwhile_is_drawn_again_with_both(self) -> None:
        counts = []

        def interrupted(xy: Any, depth: Any, outline: Any) -> Any:
            counts.append(len(depth))
            if len(counts) == 1:
                soundings.add_survey(Water.objects.get(), "other", *self.points(40))
            return depth_grid_of(xy, depth, outline)

        with mock.patch(DRAWN_BY, interrupted):
            soundings.add_survey(self.water, "mine", *self.points(30))
        self.assertEqual((counts, Survey.objects.count(), DepthMap.objects.count()), ([30, 40, 70], 2, 1))

    def test_a_chart_that_never_rests_is_refused_for_now_and_nothing_of_it_is_stored(self) -> None:
        def restless(xy: Any, depth: Any, outline: Any) -> Any:
            self.held.append(True)
            Water.objects.update(latitude_deg=61.2 + 1e-5 * len(self.held))
            return depth_grid_of(xy, depth, outline)

        lonlat, depth = self.points(30)
        rows = ["longitude,latitude,depth m", *(f"{lon},{lat},{d}" for (lon, lat), d in zip(lonlat, depth, strict=True))]
        with mock.patch(DRAWN_BY, restless):
            file = SimpleUploadedFile("a.csv", "\n".join(rows).encode())
            answer = self.client.post(f"/api/waters/{self.water.pk}/chart-files", {"file": file})
        self.assertEqual(
            (answer.status_code, answer.json().get("code", answer.content), answer.headers.get("Retry-After")),
            (503, "busy", "2"),
        )
        self.assertEqual((Survey.objects.count(), DepthMap.objects.count()), (0, 0))
