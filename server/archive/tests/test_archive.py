"""An account goes out as an archive and comes back as it was, field by field; and nothing that was made to break it comes in."""

from __future__ import annotations

import io
import json
import os
import tempfile
import tracemalloc
import zipfile
from collections.abc import Callable
from typing import Any
from unittest import mock

import jsonschema_rs
from common.problems import Refused
from common.speeds import in_ms
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase, override_settings
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as PropertyTestCase
from PIL import Image

from accounts.services import DEMO_USERNAME, remove, sign_up
from archive import services
from archive.importing import ArchiveImport
from archive.models import Restore
from archive.reading import Archive
from archive.shapes import DayRow, json_schema
from archive.tests.accounts import fill, unpacked
from archive.tests.on_the_way import changed, taken, written
from box.models import Fly, Line
from days.models import Day, Entry, Photo
from project.tests.people import JSON, PASSWORD, PeopleTestCase
from waters.models import Water
from waters.soundings import grid_of

LONG = os.environ.get("STILLTHREAD_TESTS") == "long"


class RoundTripTests(PropertyTestCase):
    @settings(max_examples=40 if LONG else 5, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))
    @given(st.integers(0, 10**9))
    def test_any_account_comes_back_as_it_was_and_twice_is_once(self, seed: int) -> None:
        angler = sign_up(username="angler", password=PASSWORD)
        fill(angler, seed)
        file = written(angler)
        before = unpacked(file)
        self.assertEqual(before["archive.json"]["counts"]["days"], Day.objects.count())
        # On another server, into another account: here the first goes.
        remove(user=angler, password=PASSWORD)
        again = sign_up(username="again", password=PASSWORD)
        looked = ArchiveImport(again, Archive(file), "replace").look()
        found = taken(again, file, "replace")
        self.assertEqual((found.refused, found.new), (0, looked.new))
        self.assertEqual(unpacked(written(again)), before)
        merged = taken(again, file, "merge")
        self.assertEqual((sum(merged.new.values()), sum(merged.differs.values()), merged.refused), (0, 0, 0))
        self.assertEqual(unpacked(written(again)), before)

    def test_what_the_archive_holds_is_what_its_schema_says(self) -> None:
        angler = sign_up(username="angler", password=PASSWORD)
        fill(angler, 7, least_days=3)
        schema = json_schema()
        files = unpacked(written(angler))
        self.assertEqual(files["schema.json"], json.loads(json.dumps(schema)))
        checked = 0
        for name, content in files.items():
            shape = next((ref for kind, ref in schema["files"].items() if kind.split("/")[0] == name.split("/")[0]), None)
            if shape is not None and name != "archive.json":
                jsonschema_rs.validator_for({**shape, "$defs": schema["$defs"]}).validate(content)
                checked += 1
        self.assertGreater(checked, 3)

    def test_an_archive_of_the_first_version_comes_back_with_its_speeds_under_the_names_of_now(self) -> None:
        angler = sign_up(username="angler", password=PASSWORD)
        fill(angler, 7, least_days=3)
        file = written(angler)
        now = unpacked(file)
        old = io.BytesIO()
        with zipfile.ZipFile(file) as source, zipfile.ZipFile(old, "w", zipfile.ZIP_DEFLATED) as target:
            for name in source.namelist():
                data = source.read(name)
                if name.endswith(".json") and name != "schema.json":
                    said = in_ms(json.loads(data))
                    data = json.dumps({**said, "version": 1} if name == "archive.json" else said).encode()
                target.writestr(name, data)
        self.assertIn(b'"wind_speed_ms"', b"".join(zipfile.ZipFile(old).read(n) for n in now if n.startswith("days/")))
        remove(user=angler, password=PASSWORD)
        again = sign_up(username="again", password=PASSWORD)
        self.assertEqual(taken(again, old, "replace").refused, 0)
        self.assertEqual(unpacked(written(again)), now)


class MergeTests(TestCase):
    def setUp(self) -> None:
        self.angler = sign_up(username="angler", password=PASSWORD)
        fill(self.angler, 11, least_days=6)
        self.file = written(self.angler)

    def test_what_was_lost_comes_back_and_what_was_added_since_stays(self) -> None:
        before = unpacked(self.file)
        lost = Day.objects.filter(presentations__entries__isnull=False).distinct()[0]
        Entry.objects.filter(presentation__day=lost).delete()
        Fly.objects.filter(owner=self.angler)[0].delete()
        Fly.objects.create(owner=self.angler, name="Since then", hook_size=10)
        found = taken(self.angler, self.file, "merge")
        self.assertEqual(found.new["box"], 1)
        self.assertGreater(found.new["entries"], 0)
        after = unpacked(written(self.angler))
        self.assertEqual(after[f"days/{lost.pk}.json"]["presentations"], before[f"days/{lost.pk}.json"]["presentations"])
        self.assertTrue(Fly.objects.filter(name="Since then").exists())

    def test_what_was_changed_here_since_stays_and_is_told(self) -> None:
        day = Day.objects.all()[0]
        Day.objects.filter(pk=day.pk).update(notes="Put right since.")
        found = taken(self.angler, self.file, "merge")
        self.assertEqual(found.differs["days"], 1)
        self.assertEqual(Day.objects.get(pk=day.pk).notes, "Put right since.")

    def test_a_starter_box_is_not_there_twice(self) -> None:
        lines = Line.objects.filter(owner=self.angler).count()
        remove(user=self.angler, password=PASSWORD)
        again = sign_up(username="again", password=PASSWORD)
        taken(again, self.file, "merge")
        self.assertEqual(Line.objects.filter(owner=again).count(), lines)

    def test_another_persons_log_is_neither_touched_nor_taken(self) -> None:
        other = sign_up(username="other", password=PASSWORD)
        before = unpacked(written(self.angler))
        days = Day.objects.filter(owner=self.angler).count()
        looked = ArchiveImport(other, Archive(self.file), "replace").look()
        self.assertGreaterEqual(looked.refused, days)
        self.assertTrue(all("nother person here" in fault.why for fault in looked.faults))
        with self.assertRaisesMessage(Exception, "can't be taken"):
            taken(other, self.file, "replace")
        self.assertEqual(unpacked(written(self.angler)), before)
        self.assertFalse(Water.objects.filter(owner=other).exists())

    def test_when_it_fails_midway_nothing_was_stored_and_nothing_lost(self) -> None:
        before = unpacked(written(self.angler))
        with (
            mock.patch("archive.importing.Entry.objects.bulk_create", side_effect=RuntimeError),
            self.assertRaises(RuntimeError),
        ):
            taken(self.angler, self.file, "replace")
        self.assertEqual(unpacked(written(self.angler)), before)

    def test_soundings_that_came_with_it_draw_the_bottom_again(self) -> None:
        from demo.lakes import BRENNHOLT_LAKE
        from demo.season import BRENNHOLT, chart_lake
        from waters.services import save_water

        water = save_water(water=Water(owner=self.angler), changes=dict(BRENNHOLT))
        chart_lake(water, BRENNHOLT_LAKE)
        drawn = grid_of(water)
        assert drawn is not None
        file = written(self.angler)
        taken(self.angler, file, "replace")
        again = grid_of(Water.objects.get(owner=self.angler, uid=water.uid))
        assert again is not None
        self.assertEqual(again.depth_m.tobytes(), drawn.depth_m.tobytes())


class HostileTests(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        kept = override_settings(KEPT_DIR=folder.name)
        kept.enable()
        self.addCleanup(kept.disable)
        self.log_day()
        self.file = written(self.angler)
        self.before = unpacked(self.file)

    def send(self, data: bytes, mode: str = "merge", path: str = "takes", **more: Any) -> Any:
        begun = self.post("/api/restores", {"size": len(data)})
        self.assertEqual(begun.status_code, 201, begun.content)
        address = f"/api/restores/{begun.json()['id']}"
        part = {"file": SimpleUploadedFile("part", data)}
        self.assertEqual(self.client.post(f"{address}/parts?offset=0", part).status_code, 200)
        return self.post(f"{address}/{path}", {"mode": mode, **more})

    def assert_refused(self, data: bytes, *words: str) -> None:
        answer = self.send(data, "replace")
        self.assertIn(answer.status_code, (409, 422), answer.content[:300])
        for word in words:
            self.assertIn(word, answer.json()["detail"])
        self.assertEqual(unpacked(written(self.angler)), self.before)

    def day_changed(self, change: Callable[[dict[str, Any]], Any]) -> bytes:
        def edit(files: dict[str, bytes]) -> None:
            name = f"days/{self.day_id}.json"
            day = json.loads(files[name])
            change(day)
            files[name] = json.dumps(day).encode()

        return changed(self.file, edit).getvalue()

    def test_no_zip_a_cut_zip_and_a_zip_of_something_else(self) -> None:
        other = io.BytesIO()
        with zipfile.ZipFile(other, "w") as archive:
            archive.writestr("README.txt", "hello")
        whole = self.file.getvalue()
        for data in (b"no zip at all", whole[: len(whole) // 2], other.getvalue()):
            self.assert_refused(data)

    def test_a_bomb_is_refused_before_it_is_unpacked(self) -> None:
        def add(files: dict[str, bytes]) -> None:
            files[f"surveys/{self.presentation_id}.json"] = b"0" * 45_000_000

        bomb = changed(self.file, add)
        tracemalloc.start()
        self.assert_refused(bomb.getvalue(), "times its size")
        _, peak = tracemalloc.get_traced_memory()
        tracemalloc.stop()
        self.assertLess(peak, 30_000_000)
        liar = bytearray(self.file.getvalue())
        # A file that says it is shorter than it is.
        at = liar.rindex(b"PK\x01\x02")
        liar[at + 24 : at + 28] = (3).to_bytes(4, "little")
        self.assert_refused(bytes(liar))

    def test_a_day_is_no_larger_than_days_are_and_holds_nothing_that_nobody_knows(self) -> None:
        def swell(day: dict[str, Any]) -> None:
            day["changes"] = [{} for _ in range(2_000_000)]

        self.assert_refused(self.day_changed(swell), "The most is 4 MB")
        for where, name in (
            (lambda day: day["conditions"], "junk"),
            (lambda day: day["conditions"]["readings"][0], "readings.0.junk"),
            (lambda day: day["presentations"][0]["conditions"], "junk"),
            (lambda day: day["presentations"][0]["action"], "junk"),
            (lambda day: day["presentations"][0]["line"], "junk"),
            (lambda day: day["presentations"][0]["flies"][0]["fly"], "fly.junk"),
        ):

            def add(day: dict[str, Any], where: Callable[[dict[str, Any]], Any] = where) -> None:
                where(day)["junk"] = ["x" * 100] * 100

            with self.subTest(name):
                found = self.send(self.day_changed(add), "replace", path="looks").json()
                self.assertEqual(found["refused"], 1)
                self.assertIn(f"nobody knows what {name} is", found["faults"][0]["why"])

    def test_a_text_that_no_store_can_hold_is_refused_with_its_file(self) -> None:
        def add(day: dict[str, Any]) -> None:
            day["notes"] = "a\x00b"

        self.assert_refused(self.day_changed(add), f"days/{self.day_id}.json", "can't be stored")

    def test_what_it_unpacks_to_has_to_have_room(self) -> None:
        free = services.LEFT_FREE + len(self.file.getvalue()) + 10
        with mock.patch("archive.services.shutil.disk_usage", return_value=mock.Mock(free=free)):
            refused = self.send(self.file.getvalue(), "replace", path="takes")
        self.assertEqual((refused.status_code, refused.json()["code"]), (507, "disk_full"))

    def test_paths_links_and_strangers(self) -> None:
        for name in ("../../etc/cron.d/x", "/etc/passwd", "days/../archive.json", "photos/evil.php", "C:\\x.json", "days/"):

            def add(files: dict[str, bytes], name: str = name) -> None:
                files[name] = b"x"

            with self.subTest(name):
                self.assert_refused(changed(self.file, add).getvalue(), "belong")
        link = io.BytesIO(self.file.getvalue())
        with zipfile.ZipFile(link, "a") as archive:
            member = zipfile.ZipInfo("box.json2")
            member.external_attr = 0o120777 << 16
            archive.writestr(member, "/etc/passwd")
        self.assert_refused(link.getvalue(), "link")

    def test_days_that_are_not_as_the_schema_says(self) -> None:
        def entry(day: dict[str, Any]) -> dict[str, Any]:
            found: dict[str, Any] = day["presentations"][0]["entries"][0]
            return found

        for name, change in {
            "more than is said": lambda d: d.update(admin=True),
            "no number": lambda d: entry(d).update(depth_low_m="NaN"),
            "upside down": lambda d: entry(d).update(depth_low_m=9.0, depth_high_m=1.0),
            "no zone": lambda d: d.update(at="2026-07-14T10:00:00"),
            "of no kind": lambda d: entry(d).update(kind="explode"),
            "the server's own number": lambda d: d["conditions"].update(water_id=1),
            "paths of two lengths": lambda d: d["presentations"][0].update(path_s=[0.0]),
            "no line": lambda d: d["presentations"][0]["line"].update(class_key="none-such"),
            "nested": lambda d: d["conditions"].update(sample=json.loads("[" * 200 + "]" * 200)),
            "a water that is not there": lambda d: d.update(water=str(self.day_id)),
            "one id twice": lambda d: d["presentations"][0]["entries"].append(entry(d)),
            "a change of nothing": lambda d: d["changes"].append(
                {"uid": str(self.day_id), "at": d["at"], "entry": str(self.day_id), "before": {}, "after": {}}
            ),
        }.items():
            with self.subTest(name):
                data = self.day_changed(change)
                looked = self.send(data, "replace", "looks").json()
                self.assertEqual(looked["refused"], 1, looked)
                self.assertTrue(looked["faults"][0]["why"])
                self.assert_refused(data, "can't be taken")

    def test_what_is_refused_may_be_left_out_and_the_rest_taken(self) -> None:
        data = self.day_changed(lambda day: day.update(at="yesterday"))
        taken = self.send(data, "replace", leave_out=True)
        self.assertEqual((taken.status_code, taken.json()["refused"]), (200, 1))
        self.assertEqual((Day.objects.filter(owner=self.angler).count(), self.angler.waters.count()), (0, 1))
        self.assertFalse(Restore.objects.exists())

    def test_a_picture_of_a_hundred_million_points_is_left_out_unopened(self) -> None:
        landed = self.entry(kind="landed")
        path = f"/api/days/{self.day_id}/entries/{self.presentation_id}"
        self.put(path, landed)
        big = io.BytesIO()
        Image.new("1", (10_000, 10_000)).convert("L").save(big, "JPEG", quality=1)

        def edit(files: dict[str, bytes]) -> None:
            name = f"days/{self.day_id}.json"
            day = json.loads(files[name])
            photo = {"width_px": 1600, "height_px": 1600, "kept_at": day["at"]}
            entry = next(one for one in day["presentations"][0]["entries"] if one["kind"] == "landed")
            files[f"photos/{entry['id']}.jpg"] = big.getvalue()
            entry["photo"] = photo
            files[name] = json.dumps(day).encode()

        data = changed(written(self.angler), edit).getvalue()
        tracemalloc.start()
        looked = self.send(data, "replace", "looks").json()
        _, peak = tracemalloc.get_traced_memory()
        tracemalloc.stop()
        self.assertEqual(looked["refused"], 1, looked)
        self.assertIn("picture", looked["faults"][0]["why"])
        self.assertLess(peak, 30_000_000)
        self.assertEqual(Photo.objects.count(), 0)

    def test_a_script_in_notes_stays_text_and_a_newer_archive_is_told_apart(self) -> None:
        data = self.day_changed(lambda day: day.update(notes="<script>alert(1)</script>"))
        self.assertEqual(self.send(data, "replace").status_code, 200)
        day = self.client.get(f"/api/days/{self.day_id}")
        self.assertEqual(
            (day.json()["notes"], day["Content-Type"]), ("<script>alert(1)</script>", "application/json; charset=utf-8")
        )

        def newer(files: dict[str, bytes]) -> None:
            files["archive.json"] = files["archive.json"].replace(b'"version":4', b'"version":5')

        answer = self.send(changed(self.file, newer).getvalue())
        self.assertEqual(answer.json()["code"], "newer")

    def test_parts_come_in_order_once_each_and_only_their_owners(self) -> None:
        data = self.file.getvalue()
        begun = self.post("/api/restores", {"size": len(data)}).json()
        address = f"/api/restores/{begun['id']}"

        def part(offset: int, end: int) -> Any:
            file = {"file": SimpleUploadedFile("part", data[offset:end])}
            return self.client.post(f"{address}/parts?offset={offset}", file)

        self.assertEqual(part(0, 500).json()["came"], 500)
        self.assertEqual(part(0, 500).json()["came"], 500)
        self.assertEqual(part(900, 1000).status_code, 409)
        self.assertEqual(self.post(f"{address}/takes", {"mode": "merge"}).json()["code"], "incomplete")
        self.assertEqual(part(500, len(data)).json()["came"], len(data))
        self.assertEqual(self.signed_in(self.other).get(address).status_code, 404)
        self.assertEqual(self.post(f"{address}/takes", {"mode": "merge"}).status_code, 200)
        self.assertEqual(self.client.get(address).status_code, 404)

    def test_room_that_others_announced_is_not_promised_again_and_each_part_is_looked_at(self) -> None:
        free = services.LEFT_FREE + 1_000
        other = self.client_class()
        other.force_login(self.other)
        with mock.patch("archive.services.shutil.disk_usage", return_value=mock.Mock(free=free)):
            mine = self.post("/api/restores", {"size": 700})
            self.assertEqual(mine.status_code, 201)
            refused = other.post("/api/restores", {"size": 700}, content_type=JSON)
            self.assertEqual((refused.status_code, refused.json()["code"]), (507, "disk_full"))
            # One's own that is announced anew takes the place of the first.
            self.assertEqual(self.post("/api/restores", {"size": 900}).status_code, 201)
            self.assertEqual(other.post("/api/restores", {"size": 100}, content_type=JSON).status_code, 201)
        restore = Restore.objects.get(owner=self.angler)
        no_more = mock.patch("archive.services.shutil.disk_usage", return_value=mock.Mock(free=services.LEFT_FREE))
        with no_more, self.assertRaises(Refused) as full:
            services.add_part(restore, 0, b"x" * 100)
        self.assertEqual(full.exception.status, 507)

    def test_too_large_or_with_no_room_is_refused_at_once(self) -> None:
        self.assertEqual(self.post("/api/restores", {"size": 2_000_000_000}).status_code, 413)
        with mock.patch("archive.services.shutil.disk_usage", return_value=mock.Mock(free=1)):
            self.assertEqual(self.post("/api/restores", {"size": 1000}).status_code, 507)

    def test_the_demo_angler_cant_be_replaced_and_what_waits_too_long_goes(self) -> None:
        demo = sign_up(username=DEMO_USERNAME, password=PASSWORD)
        self.client = self.signed_in(demo)
        self.assertEqual(self.send(self.file.getvalue(), "replace").status_code, 403)
        self.assertEqual(services.tidy(), 0)
        Restore.objects.update(begun_at="2020-01-01T00:00Z")
        self.assertEqual(services.tidy(), 1)


class OutTests(PeopleTestCase):
    def test_it_is_downloaded_by_its_owner_and_by_a_script_of_theirs(self) -> None:
        self.log_day()
        token = self.post("/api/tokens", {"password": PASSWORD, "name": "nightly", "scope": "read"}).json()["token"]
        for client in (self.client, self.client_class(headers={"authorization": f"Bearer {token}"})):
            answer = client.get("/api/archive.zip")
            self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/zip"))
            self.assertIn("attachment", answer["Content-Disposition"])
            files = unpacked(io.BytesIO(b"".join(answer.streaming_content)))  # type: ignore[attr-defined]
            self.assertEqual(files["archive.json"]["counts"]["days"], 1)
            DayRow.model_validate(files[f"days/{self.day_id}.json"])
        self.assertEqual(self.client.get("/api/archive.schema.json").json(), json.loads(json.dumps(json_schema())))
        self.assertEqual(self.client.post("/api/restores", {"size": 0}, content_type=JSON).status_code, 422)
