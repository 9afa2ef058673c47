"""Every view is open to every angler: the checker finds nothing, and nothing is wider than the screen."""

from __future__ import annotations

import json
from typing import Any

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from e2e.angler import AnglerTestCase
from e2e.browser import DESK, PHONE


class AccessTests(AnglerTestCase):
    """Every view, in both themes: no violation that the checker knows, and nothing wider than the screen."""

    def check(self, page: Page, where: str) -> None:
        found: Any = Axe().run(page, options={"runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]})
        faults = [(v["id"], v["nodes"][0]["html"][:160]) for v in found.response["violations"]]
        self.assertEqual(faults, [], where)
        wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
        self.assertEqual(wide, 0, f"{where} is wider than the screen")

    def go(self, page: Page, name: str) -> None:
        link = page.get_by_role("link", name=name, exact=True)
        if link.is_visible():
            link.click()
        else:  # on a phone the way to the tank leads through the box
            page.get_by_role("link", name="Try two rigs against each other in the tank").click()

    def test_every_view_is_accessible_in_both_themes_and_fits_its_screen(self) -> None:
        door = self.open()
        door.goto("/")
        expect(door.get_by_label("Name")).to_be_visible()
        self.check(door, "the door")
        for size in (DESK, PHONE):
            page = self.open(size)
            self.start_fishing(page)
            for theme in ("light", "dusk"):
                page.evaluate(f"document.documentElement.dataset.theme = {json.dumps(theme)}")
                for path, seen in (
                    ("Fish", "all sent"), ("Read", "Most likely feeding"), ("Rig", "The best of each line"),
                    ("Look back", "casts logged"), ("Waters", "Add a water"), ("Box", "Leaders"),
                    ("Tank", "two rigs in the same water"),
                ):  # fmt: skip
                    self.go(page, path)
                    expect(page.get_by_text(seen).first).to_be_visible()
                    page.wait_for_timeout(400)
                    self.check(page, f"{path}, {theme}, {size[0]} px")
        self.assert_no_faults()
