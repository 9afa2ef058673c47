"""A landed fish: what it measured and weighed, whether it was kept, and its picture without where it was taken."""

from __future__ import annotations

import base64
import io
import uuid
from typing import Any

from PIL import Image

from days.models import Entry, Photo
from project.tests.people import PeopleTestCase, picture


class FishInHand(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.log_day()
        self.day = f"/api/days/{self.day_id}"

    def land(self, **said: Any) -> tuple[int, dict[str, Any], str]:
        path = f"{self.day}/entries/{uuid.uuid4()}"
        answer = self.put(path, self.entry(**{"kind": "landed", **said}))
        return answer.status_code, answer.json(), path

    def test_its_usual_weight_comes_from_the_equation_and_what_was_weighed_is_kept_as_weighed(self) -> None:
        status, told, _ = self.land(species="rainbow", length_m=0.4, kept=False, played_s=95.0)
        self.assertEqual((status, told["usual_kg"], told["weight_kg"]), (201, 0.762, None))
        self.assertEqual((told["kept"], told["played_s"]), (False, 95.0))
        _, weighed, _ = self.land(species="rainbow", length_m=0.4, weight_kg=0.61, kept=True)
        self.assertEqual((weighed["weight_kg"], weighed["kept"]), (0.61, True))
        _, char, _ = self.land(species="char", length_m=0.4)
        self.assertIsNone(char["usual_kg"])

    def test_what_only_a_fish_or_only_a_cast_has_is_refused_elsewhere(self) -> None:
        for field, value in (("weight_kg", 1.0), ("kept", True), ("played_s", 30.0), ("length_m", 0.4)):
            answer = self.put(f"{self.day}/entries/{uuid.uuid4()}", self.entry(**{"kind": "take", field: value}))
            self.assertEqual((answer.status_code, list(answer.json()["fields"])), (422, [field]))
        status, told, _ = self.land(toward=1)
        self.assertEqual((status, list(told["fields"])), (422, ["toward"]))

    def test_a_cast_keeps_where_it_went(self) -> None:
        path = f"{self.day}/entries/{uuid.uuid4()}"
        told = self.put(path, self.entry(kind="cast", cast_elapsed_s=None, toward=-2, far=True)).json()
        self.assertEqual((told["toward"], told["far"]), (-2, True))
        beyond = self.put(f"{self.day}/entries/{uuid.uuid4()}", self.entry(kind="cast", toward=3))
        self.assertEqual((beyond.status_code, list(beyond.json()["fields"])), (422, ["toward"]))

    def test_a_picture_is_made_small_turned_upright_and_stripped_of_its_place(self) -> None:
        _, _, path = self.land()
        exif = Image.Exif()
        exif[0x0112] = 6  # lies on its side
        exif[0x010F] = "a maker"
        exif.get_ifd(0x8825)[1] = "N"  # where it was taken
        answer = self.put(f"{path}/photo", {"image": picture(3000, 1500, exif=exif.tobytes())})
        self.assertEqual((answer.status_code, answer.json()), (201, {"width_px": 800, "height_px": 1600}))
        shown = self.client.get(f"{path}/photo")
        self.assertEqual(shown["Content-Type"], "image/jpeg")
        image = Image.open(io.BytesIO(shown.content))
        self.assertEqual((image.size, dict(image.getexif())), ((800, 1600), {}))
        self.assertNotIn(b"Exif", shown.content)
        shown_of = {one["id"]: one["has_photo"] for one in self.client.get(f"{self.day}/entries").json()["items"]}
        self.assertEqual(shown_of, {str(self.entry_id): False, path.rsplit("/", 1)[1]: True})

    def test_a_resend_keeps_one_and_another_takes_its_place(self) -> None:
        _, _, path = self.land()
        for width, status in ((40, 201), (40, 200), (60, 200)):
            self.assertEqual(self.put(f"{path}/photo", {"image": picture(width)}).status_code, status)
        self.assertEqual((Photo.objects.count(), Photo.objects.get().width_px), (1, 60))
        self.assertEqual(self.client.delete(f"{path}/photo").status_code, 204)
        self.assertEqual(self.client.get(f"{path}/photo").status_code, 404)

    def test_what_is_no_picture_or_would_burst_is_refused_and_nothing_is_kept(self) -> None:
        _, _, path = self.land()
        huge = Image.new("1", (10_000, 10_000))
        out = io.BytesIO()
        huge.save(out, "PNG")
        bomb = base64.b64encode(out.getvalue()).decode()
        cut = base64.b64encode(base64.b64decode(picture(400, 300))[:300]).decode()
        script = base64.b64encode(b"<svg onload='alert(1)'/>").decode()
        for sent in (bomb, cut, script, picture(kind="GIF"), "not base64!", ""):
            answer = self.put(f"{path}/photo", {"image": sent})
            self.assertEqual((answer.status_code, list(answer.json()["fields"])), (422, ["image"]), answer.content[:200])
        self.assertEqual(Photo.objects.count(), 0)

    def test_only_a_landed_fish_has_a_picture(self) -> None:
        answer = self.put(f"{self.day}/entries/{self.entry_id}/photo", {"image": picture()})
        self.assertEqual((answer.status_code, Entry.objects.get(pk=self.entry_id).kind), (422, "take"))
