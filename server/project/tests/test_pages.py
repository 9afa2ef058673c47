"""The web part as it is served: one page for every address of its own, kept files kept, nothing else given away."""

from __future__ import annotations

import re
from pathlib import Path
from tempfile import TemporaryDirectory

from django.conf import settings
from django.test import Client, TestCase, override_settings


class PageTests(TestCase):
    def setUp(self) -> None:
        self.assertTrue((settings.WEB_BUILD_DIR / "index.html").is_file(), "build the web part first: make web")

    def test_every_step_is_the_one_page_and_sets_the_token(self) -> None:
        for path in ("/", "/read", "/rig", "/fish", "/log", "/log/4f0c", "/waters", "/box", "/tank", "/no-such-page"):
            page = self.client.get(path)
            self.assertEqual((page.status_code, page["Content-Type"]), (200, "text/html; charset=utf-8"), path)
            self.assertEqual(page["Cache-Control"], "no-cache")
            self.assertIn("csrftoken", page.cookies)

    def test_the_page_takes_all_it_needs_from_here(self) -> None:
        page = self.client.get("/").content.decode()
        addresses = re.findall(r'(?:src|href)="([^"]+)"', page)
        self.assertTrue(addresses)
        self.assertTrue(all(address.startswith("/") and not address.startswith("//") for address in addresses), addresses)

    def test_hashed_files_may_be_kept_for_good_and_unknown_ones_are_missing(self) -> None:
        script = next(
            a for a in re.findall(r'src="([^"]+)"', self.client.get("/").content.decode()) if a.startswith("/assets/")
        )
        kept = self.client.get(script)
        self.assertEqual(kept.status_code, 200)
        self.assertIn("immutable", kept["Cache-Control"])
        self.assertIn("javascript", kept["Content-Type"])
        kept.close()
        self.assertEqual(self.client.get("/assets/none.js").status_code, 404)

    def test_files_beside_the_build_cannot_be_reached(self) -> None:
        for path in ("/../package.json", "/assets/../../package.json", "/%2e%2e/openapi.json", "/.env"):
            answer = self.client.get(path)
            self.assertNotIn(b"dependencies", answer.content)
            self.assertNotIn(b"openapi", answer.content)

    def test_a_page_is_only_read(self) -> None:
        self.assertEqual(Client().post("/read").status_code, 405)

    def test_a_page_of_an_earlier_build_still_finds_its_screens_and_nothing_else_is_given_out(self) -> None:
        with TemporaryDirectory() as there, override_settings(WEB_OLD_DIR=there):
            (Path(there) / "DayPage-old.js").write_text("export const old = 1")
            found = self.client.get("/assets/DayPage-old.js")
            self.assertEqual((found.status_code, found.getvalue()), (200, b"export const old = 1"))
            for name in ("DayPage-older.js", "..%2Fsecret", "%2e%2e/secret"):
                self.assertEqual(self.client.get(f"/assets/{name}").status_code, 404, name)
