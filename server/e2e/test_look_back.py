"""Look back: what the log answers, days found and put right, a rig tied on again, a line timed; on a desk and on a phone."""

from __future__ import annotations

import csv
import re
from datetime import date
from pathlib import Path

from playwright.sync_api import Page, expect

from accounts.models import User
from box.models import Line
from days.models import Day, Presentation
from demo.season import load_season
from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE


class LookBackTests(AnglerTestCase):
    """A season that is known: the demo's, laid into the store before the page is opened."""

    keeper: User

    def setUp(self) -> None:
        super().setUp()
        self.keeper = load_season(today=date.today(), days=6)

    def enter(self, page: Page, path: str) -> None:
        page.goto("/")
        page.get_by_role("button", name="Enter as the demo angler").click()
        expect(page.get_by_text("Most likely feeding")).to_be_visible()
        page.goto(path)

    def test_how_deep_on_what_and_when_are_answered_and_saved_as_a_table(self) -> None:
        page = self.open(accept_downloads=True)
        self.enter(page, "/log")
        for question in ("How deep", "On what", "When", "How"):
            answer = page.get_by_role("region", name=question, exact=True)
            expect(answer.locator("p.plate")).not_to_be_empty()
        deep = page.get_by_role("region", name="How deep", exact=True)
        expect(deep.get_by_role("row").nth(1)).to_contain_text(re.compile(r"\d–\d m"))
        deep.get_by_role("link", name="All of it").click()
        expect(page).to_have_url(re.compile("by=depth"))
        self.settle(page)
        with page.expect_download() as saved:
            page.get_by_role("button", name="Save as CSV").click()
        rows = list(csv.DictReader(Path(saved.value.path()).read_text().splitlines()))
        shown = page.get_by_role("table").get_by_role("row").count() - 1
        self.assertEqual(len(rows), shown)
        self.assertTrue(all(float(r["low_per_hour"]) <= float(r["mean_per_hour"]) <= float(r["high_per_hour"]) for r in rows))
        page.get_by_label("By", exact=True).select_option(label="Fly")
        expect(page.get_by_role("columnheader", name="Point fly")).to_be_visible()
        page.get_by_role("button", name="January").click()
        page.get_by_role("link", name="Was it right?").click()
        # Pressed while the next page may still be on its way: it counts for that page.
        expect(page).to_have_url(re.compile(r"/log/advice\?.*months=1"))
        page.get_by_role("button", name="January").click()
        expect(page.get_by_role("heading", name=re.compile("promises held"))).to_be_visible()
        page.get_by_role("link", name="The year").click()
        expect(page.get_by_role("heading", name=re.compile("Warmest"))).to_be_visible()
        self.assert_no_faults()

    def test_a_day_is_found_put_right_and_its_history_kept(self) -> None:
        page = self.open()
        self.enter(page, "/log/days")
        expect(page.get_by_role("heading", name="6 days")).to_be_visible()
        page.get_by_role("radio", name="Calendar").click()
        expect(page.get_by_role("region", name=re.compile(r"\d{4}")).first).to_be_visible()
        took = next(
            day for day in Day.objects.filter(owner=self.keeper) if day.presentations.filter(entries__kind="landed").exists()
        )
        page.goto(f"/log/day/{took.pk}")
        page.get_by_role("button", name=re.compile("Put right: Landed")).first.click()
        page.get_by_label("Length", exact=True).fill("44")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_role("listitem").filter(has_text="44 cm")).to_be_visible()
        page.get_by_label("Notes").fill("Zebra stripes on the water at six.")
        page.get_by_label("Notes").blur()
        page.get_by_text("Put right what was read").click()
        page.get_by_label("Seen down to").fill("2.2")
        page.get_by_role("button", name="Keep what was read").click()
        expect(page.get_by_text(re.compile("seen down to 2.2 m"))).to_be_visible()
        page.get_by_text("Put right since, 3 times").click()
        expect(page.get_by_text("44 cm").last).to_be_visible()
        page.goto("/log/days")
        page.get_by_label("Fly, line, method, spot, notes").fill("zebra")
        expect(page.get_by_role("heading", name="1 day", exact=True)).to_be_visible()
        self.assert_no_faults()

    def test_what_was_fished_is_tied_on_again_with_one_press(self) -> None:
        page = self.open(PHONE, has_touch=True)
        day = Day.objects.filter(owner=self.keeper).order_by("-at")[0]
        first = day.presentations.all()[0]
        self.enter(page, f"/log/day/{day.pk}")
        page.get_by_role("button", name="Tie this on again").first.click()
        expect(page.get_by_role("button", name="Cast", exact=True)).to_be_visible()
        expect(page.get_by_text(first.flies[0]["fly"]["name"]).first).to_be_visible()
        self.wait_for(lambda: Presentation.objects.filter(line=first.line).count() >= 2)
        page.get_by_role("button", name="Cast", exact=True).click()
        page.get_by_role("button", name=re.compile("Touched bottom")).click()
        expect(page.get_by_role("button", name="Undo bottom")).to_be_visible()
        expect(page.get_by_role("button", name="Cast again")).to_be_visible()  # the fly is still in the water
        self.assert_no_faults()

    def test_a_line_is_timed_on_the_page_and_used(self) -> None:
        page = self.open()
        line = Line.objects.filter(owner=self.keeper, class_key="type-3")[0]
        self.enter(page, "/box")
        page.get_by_role("listitem").filter(has_text=line.name).get_by_role("link", name="time it").click()
        expect(page.get_by_role("heading", name=re.compile("not timed yet"))).to_be_visible()
        expect(page.get_by_role("button", name="It landed: start")).to_be_disabled()
        page.get_by_label("Depth there").fill("0.6")
        page.get_by_label("Water", exact=True).fill("12")
        for _ in range(3):
            page.get_by_role("button", name="It landed: start").click()
            stop = page.get_by_role("button", name=re.compile(r"^[6-9] s · on the bottom"))
            stop.click()
            expect(page.get_by_role("button", name="It landed: start")).to_be_enabled()
        expect(page.get_by_role("table").get_by_role("row")).to_have_count(4)
        page.get_by_role("button", name=re.compile("^Simulate with")).click()
        expect(page.get_by_text(re.compile("Every simulation takes"))).to_be_visible()
        line.refresh_from_db()
        self.assertTrue(line.calibrated)
        self.assertLess(line.rate_spread or 1.0, 0.15)
        self.assert_no_faults()

    def test_an_empty_log_says_what_it_will_say_and_a_phone_shows_every_room(self) -> None:
        page = self.open(PHONE, has_touch=True)
        self.sign_in(page, "/log")
        expect(page.get_by_role("heading", name="No days yet")).to_be_visible()
        page.context.clear_cookies()
        self.enter(page, "/log")
        rooms = {
            "Days": "6 days",
            "Takes an hour": "Hollow: under two hours",
            "Was it right?": "promises held",
            "The year": "Warmest",
        }
        for room, says in rooms.items():
            page.get_by_role("navigation", name="The log").get_by_role("link", name=room).click()
            expect(page.get_by_text(says).first).to_be_visible()
            self.settle(page)
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE[0], room)
        self.assert_no_faults()
