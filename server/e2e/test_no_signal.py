"""At the water there is no signal: what was worked out at the table is there, and what is logged waits."""

from __future__ import annotations

import json
import re
import time

from playwright.sync_api import Page, Route, expect

from accounts.models import Preferences
from days.models import Entry, Presentation
from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE


def rows_of(table: str) -> str:
    """Return a script that promises how many rows the device keeps in a table."""
    count = f"o.result.transaction('{table}').objectStore('{table}').count()"
    tell = f"() => {{ const q = {count}; q.onsuccess = () => {{ o.result.close(); tell(q.result) }} }}"
    return f"new Promise(tell => {{ const o = indexedDB.open('still-thread'); o.onsuccess = {tell} }})"


class NoSignalTests(AnglerTestCase):
    def at_the_table(self) -> Page:
        """Return a page that has planned a day with a connection, and has none any more."""
        page = self.open(PHONE, service_workers="allow")
        self.sign_in(page)
        self.read_water(page)
        page.get_by_role("button", name="Choose the rig").click()
        # The whole plan, not only the first answer, and the drawing of its best.
        expect(page.get_by_text(re.compile("^Best now"))).to_be_visible()
        expect(page.get_by_role("button", name="Fish this")).to_be_enabled()
        page.get_by_role("link", name="day card").click()
        expect(page.get_by_role("article", name="Day card")).to_contain_text("Light.")
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        page.wait_for_function("navigator.serviceWorker.controller !== null")
        self.contexts[-1].set_offline(True)
        return page

    def test_plan_ladder_and_card_open_from_nothing_without_a_connection(self) -> None:
        page = self.at_the_table()
        page.reload()
        card = page.get_by_role("article", name="Day card")
        expect(card).to_contain_text("When nothing comes")
        expect(card).to_contain_text("Brennholt Reservoir")
        expect(page.get_by_text(re.compile(r"No connection\. What you see is as of \d\d:\d\d"))).to_be_visible()
        page.goto("/rig")
        expect(page.get_by_text(re.compile("^Best now"))).to_be_visible()
        page.get_by_role("region", name="When nothing comes").locator("summary").click()
        expect(page.get_by_role("region", name="When nothing comes").get_by_role("listitem").first).to_be_visible()
        page.goto("/read")
        expect(page.get_by_text("Most likely feeding")).to_be_visible()
        self.unfold(page)
        page.get_by_label("Surface temperature").fill("17.1")
        expect(page.get_by_role("alert")).to_contain_text("No connection")

    def test_a_day_begun_with_no_connection_is_fished_and_sent_whole_once_there_is_one(self) -> None:
        page = self.at_the_table()
        page.goto("/rig")
        page.get_by_role("button", name="Fish this").click()
        page.get_by_role("button", name="Cast", exact=True).click()
        page.get_by_role("button", name="Take").click()
        # The screen says so once the device has it.
        expect(page.get_by_role("button", name="Undo take")).to_be_visible()
        page.reload()
        expect(page.get_by_role("button", name="Undo take")).to_be_visible()
        expect(page.get_by_text(re.compile("4 kept here"))).to_be_visible()
        self.assertFalse(Presentation.objects.exists())
        self.contexts[-1].set_offline(False)
        expect(page.get_by_text("all sent")).to_be_visible()
        self.assertEqual([entry.kind for entry in Entry.objects.order_by("at")], ["cast", "take"])
        page.goto("/read")
        expect(page.get_by_text("Most likely feeding")).to_be_visible()
        expect(page.get_by_text(re.compile("No connection"))).to_have_count(0)
        self.assert_no_faults()

    def test_units_and_the_dusk_theme_change_without_a_connection_and_the_server_learns_of_it(self) -> None:
        page = self.at_the_table()
        self.open_units(page)
        page.get_by_role("radio", name="ft", exact=True).click()
        page.get_by_role("radio", name="dusk").click()
        expect(page.locator("html")).to_have_attribute("data-theme", "dusk")
        page.wait_for_function(f"{rows_of('outbox')}.then(rows => rows === 2)")
        # Asked before the reload: a worker that is started anew may be on the network before it is told to be off it.
        told = Preferences.objects.get(user=self.angler)
        self.assertEqual((told.depth_unit, told.theme), ("m", "light"))
        page.reload()
        expect(page.get_by_role("article", name="Day card")).to_contain_text(re.compile(r"Feeding likely \S+ ft down"))
        expect(page.locator("html")).to_have_attribute("data-theme", "dusk")
        self.contexts[-1].set_offline(False)
        self.wait_for(lambda: Preferences.objects.get(user=self.angler).theme == "dusk")
        self.assertEqual(Preferences.objects.get(user=self.angler).depth_unit, "ft")
        self.assert_no_faults()

    def test_turning_a_dial_for_long_pushes_nothing_out_of_what_the_device_keeps_for_the_day(self) -> None:
        page = self.open(PHONE, service_workers="allow")
        self.sign_in(page)
        self.read_water(page)
        page.get_by_role("button", name="Choose the rig").click()
        expect(page.get_by_text(re.compile("^Best now"))).to_be_visible()
        dial, heading = page.get_by_role("slider", name="Count"), page.get_by_role("heading", level=1)
        dial.focus()
        page.keyboard.press("Home")
        for count in range(1, 46):
            page.keyboard.press("ArrowRight")
            expect(heading).to_contain_text(re.compile(f"count {count}$"))
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        page.wait_for_function("navigator.serviceWorker.controller !== null")
        self.contexts[-1].set_offline(True)
        page.reload()
        expect(heading).to_contain_text("count 45")
        expect(page.get_by_text("The best of each method")).to_be_visible()
        page.goto("/read")
        expect(page.get_by_text("Most likely feeding")).to_be_visible()

    def test_the_next_person_on_the_device_finds_nothing_of_the_last(self) -> None:
        page = self.open(service_workers="allow")
        self.sign_in(page)
        self.read_water(page)
        self.assertGreater(page.evaluate(rows_of("kept")), 3)
        self.open_units(page)
        page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_role("button", name="Sign in")).to_be_visible()
        self.assertLessEqual(page.evaluate(rows_of("kept")), 1)  # who is here: nobody

    def test_a_screen_that_fails_keeps_the_log_and_leaves_a_way_on(self) -> None:
        page = self.open(PHONE)
        self.start_fishing(page)
        expect(page.get_by_text("all sent")).to_be_visible()
        self.contexts[-1].set_offline(True)
        page.get_by_role("button", name="Cast", exact=True).click()
        expect(page.get_by_text("1 kept here")).to_be_visible()
        self.contexts[-1].set_offline(False)
        # What is kept of the outing cannot be read by any screen.
        page.evaluate('localStorage.setItem(\'outing:angler\', \'{"conditions": {"water_id": 1}, "timeZone": "Nowhere"}\')')
        page.goto("/read")
        failed = page.get_by_role("alert")
        expect(failed).to_contain_text("This screen failed")
        self.wait_for(lambda: Entry.objects.count() == 1)
        self.assertGreater(len(self.faults), 0)
        self.faults.clear()
        page.get_by_role("link", name="Look back").click()
        expect(page.get_by_text("of the fly in the water")).to_be_visible()
        page.get_by_role("link", name="Read", exact=True).click()
        page.get_by_role("button", name="Read the water afresh").click()
        expect(page.get_by_text("Most likely feeding")).to_be_visible()

    def test_a_busy_server_is_left_alone_as_long_as_it_asks_and_then_gets_it_all(self) -> None:
        page = self.open(PHONE)
        self.start_fishing(page)
        expect(page.get_by_text("all sent")).to_be_visible()
        came: list[float] = []

        def busy(way: Route) -> None:
            came.append(time.monotonic())
            if len(came) > 1:
                way.continue_()
                return
            told = json.dumps({"code": "busy", "detail": "Too much is being written just now.", "fields": {}})
            way.fulfill(status=503, body=told, headers={"Retry-After": "3", "Content-Type": "application/json"})

        page.route("**/api/days/*/entries/*", busy)
        for kind in ("Cast", "Knock", "Take"):
            page.get_by_role("button", name=kind, exact=True).click()
            expect(page.get_by_role("button", name=f"Undo {kind.lower()}")).to_be_visible()
        expect(page.get_by_text("all sent")).to_be_visible()
        self.assertGreaterEqual(came[1] - came[0], 3.0)
        self.assertEqual([entry.kind for entry in Entry.objects.order_by("at")], ["cast", "knock", "take"])
        self.assertEqual(len(came), 4)
