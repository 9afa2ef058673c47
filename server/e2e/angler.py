"""What an angler does on the page, for tests to build on."""

from __future__ import annotations

import uuid
from collections.abc import Callable

from django.test import override_settings
from playwright.sync_api import Locator, Page, TimeoutError, expect

from accounts.services import sign_up
from demo.season import BRENNHOLT, TRESCANAS
from e2e.browser import BrowserTestCase
from project.tests.people import JSON, PASSWORD
from waters.models import Water
from waters.services import save_water


@override_settings(DEMO=True)
class AnglerTestCase(BrowserTestCase):
    """An angler with the two demo waters and a starter box, and hands to work the page."""

    def setUp(self) -> None:
        super().setUp()
        self.angler = sign_up(username="angler", password=PASSWORD)
        self.water, _ = (save_water(water=Water(owner=self.angler), changes=dict(f)) for f in (BRENNHOLT, TRESCANAS))

    def sign_in(self, page: Page, path: str = "/read") -> None:
        """Open a page as one who is signed in. Signing in by hand has tests of its own."""
        self.hold_session(page, self.angler)
        page.goto(path)
        expect(page.get_by_role("navigation", name="Steps")).to_be_visible()

    def unfold(self, page: Page) -> None:
        """Open what a phone folds to a line."""
        expect(page.get_by_role("form", name="What you read")).to_be_visible()
        folded = page.locator("form details:not([open]) > summary")
        while folded.count() > 0:
            folded.first.click()

    def give(self, page: Page, label: str, value: str) -> None:
        """Fill a field."""
        field = page.get_by_label(label, exact=label == "Wind")
        self.unfolded(page, lambda: field.fill(value, timeout=4000))

    def unfolded(self, page: Page, do: Callable[[], object]) -> None:
        """Do something to a field. An answer that comes meanwhile folds what was given and left: then it is opened again."""
        while True:
            try:
                do()
                return
            except TimeoutError:
                self.unfold(page)

    def reach(self, page: Page, target: Locator) -> Locator:
        """Return what stands in the menu, opened where a phone keeps it behind "More"."""
        more = page.get_by_role("button", name="More", exact=True)
        expect(target.or_(more).first).to_be_visible()
        if not target.is_visible():
            more.click()
        return target

    def go_to(self, page: Page, name: str) -> None:
        self.reach(page, page.get_by_role("link", name=name, exact=True)).click()

    def open_units(self, page: Page) -> None:
        self.reach(page, page.get_by_role("button", name="Units and you")).click()

    def read_water(self, page: Page) -> None:
        """Give the five first things, then a pasted profile."""
        self.unfold(page)
        waters = page.get_by_label("Water", exact=True)
        self.unfolded(page, lambda: waters.select_option(label="Brennholt Reservoir", timeout=4000))
        self.give(page, "Day and time at the water", "2026-07-14T10:40")
        self.give(page, "Surface temperature", "18.6")
        self.give(page, "Bottom depth here", "9")
        self.give(page, "Wind", "4")
        page.get_by_role("radio", name="Some").click()
        self.settle(page)

    def rig_by_line(self, page: Page) -> None:
        """Go from the water as read to the rig, line by line with the dials."""
        page.get_by_role("button", name="Choose the rig").click()
        page.get_by_role("radio", name="Line, with dials").click()

    def start_fishing(self, page: Page) -> None:
        self.sign_in(page)
        self.read_water(page)
        page.get_by_role("button", name="Choose the rig").click()
        page.get_by_role("button", name="Fish this").click()
        expect(page.get_by_role("button", name="Cast", exact=True)).to_be_visible()

    def practised(self) -> tuple[str, str]:
        """Return where two practice days are: one that is being fished, and one that was told."""
        self.client.force_login(self.angler)
        paths = []
        for ends in (False, True):
            day = str(uuid.uuid4())
            at = f"/api/practice-days/{day}"
            self.client.put(at, {"level": "fair", "seed": "XK9ZWD"}, content_type=JSON)
            one = self.client.get(f"{at}/plan").json()["ranked"][0]
            cast = {"kind": "cast", "rig": {n: one[n] for n in ("line", "leader", "flies")}, "action": one["action"]}
            for number, act in enumerate([cast, {"kind": "place"}, cast, *([{"kind": "end"}] if ends else [])]):
                answer = self.client.put(f"{at}/acts/{number}", act, content_type=JSON)
                self.assertEqual(answer.status_code, 200, answer.content)
            paths.append(f"/practice/{day}")
        return paths[0], paths[1]
