"""A practice day played in the browser, badly and by advice; the drills; and the view from above."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect
from practice.models import PracticeDay

from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE
from e2e.test_reading import CSV
from waters.models import Water


class PracticeTests(AnglerTestCase):
    def deal(self, page: Page, seed: str = "XK9ZWD") -> None:
        page.get_by_label("A friend's code").fill(seed)
        page.get_by_role("button", name="Same day as a friend").click()
        expect(page.get_by_role("button", name="Cast", exact=True)).to_be_enabled()

    def cast(self, page: Page, times: int) -> None:
        said = page.get_by_role("status").filter(has_text=re.compile(r"Cast \d+:"))
        begun = int(re.findall(r"Cast (\d+)", said.text_content() or "")[-1]) if said.count() else 0
        for number in range(begun + 1, begun + times + 1):
            page.get_by_role("button", name=re.compile("^Cast( again)?$")).click()
            expect(said.get_by_text(re.compile(f"^Cast {number}:"))).to_be_visible()

    def test_a_newcomer_fishes_a_hidden_lake_on_a_phone_and_sees_where_they_were(self) -> None:
        Water.objects.all().delete()
        page = self.open(PHONE)
        self.sign_in(page)
        page.get_by_role("link", name="Fish a practice day first").click()
        refused = page.get_by_label("A friend's code")
        refused.fill("nonsense")
        page.get_by_role("button", name="Same day as a friend").click()
        expect(page.get_by_text(re.compile("letters and digits"))).to_be_visible()
        self.deal(page)
        page.get_by_role("button", name=re.compile("^Sound the bottom")).click()
        expect(page.get_by_role("button", name=re.compile("^Sound the bottom done"))).to_be_disabled()
        expect(page.get_by_text(re.compile("236 min left"))).to_be_visible()
        self.cast(page, 3)
        page.get_by_role("button", name="What would you do?").click()
        expect(page.get_by_text("The app would")).to_be_visible()
        # After each cast the angler says first what he would do, and then the app.
        page.get_by_role("radio", name="each cast").click()
        self.cast(page, 1)
        first = page.get_by_role("region", name="What would you do now?")
        expect(first.get_by_text("The app would")).to_have_count(0)
        first.get_by_role("button", name="Go on").click()
        expect(first.get_by_text(re.compile("^(So would the app|The app would not)"))).to_be_visible()
        page.get_by_role("radio", name="off").click()
        page.reload()
        expect(page.get_by_text(re.compile("4 casts"))).to_be_visible()
        self.cast(page, 2)
        page.get_by_role("button", name="End the day and see").click()
        expect(page.get_by_role("heading", name="Where they were")).to_be_visible()
        takes = page.get_by_role("region", name="Takes of the day")
        for who in ("You, by your casts", "The classic ladder", "The advice", "One who knew"):
            expect(takes.get_by_text(who)).to_be_visible()
        expect(page.get_by_role("region", name="Every cast").get_by_text("1 to 6")).to_be_visible()
        self.assert_no_faults()

    def test_a_day_on_ones_own_water_goes_along_and_is_played_to_its_end_with_no_signal(self) -> None:
        page = self.open(PHONE, service_workers="allow")
        self.sign_in(page, "/practice")
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        page.wait_for_function("navigator.serviceWorker.controller !== null")
        page.get_by_label("Water").select_option(label=self.water.name)
        page.get_by_label(re.compile("^Take it along")).check()
        self.deal(page)
        expect(page.get_by_text(re.compile("taken along: it goes on with no connection"))).to_be_visible()
        self.cast(page, 1)
        self.wait_for(lambda: len(PracticeDay.objects.get(owner=self.angler).log) == 1)
        self.contexts[-1].set_offline(True)
        page.reload()
        expect(page.get_by_text(re.compile(r"1 cast\b"))).to_be_visible()
        page.get_by_role("button", name=re.compile("^Sound the bottom")).click()
        expect(page.get_by_role("button", name=re.compile("^Sound the bottom done"))).to_be_disabled()
        # What the dial reaches with no connection went along.
        page.get_by_role("slider", name=re.compile("^(Count|Set depth)$")).focus()
        page.keyboard.press("ArrowRight")
        self.cast(page, 3)
        page.get_by_role("button", name="What would you do?").click()
        expect(page.get_by_text("The app would")).to_be_visible()
        page.get_by_role("button", name="End the day and see").click()
        expect(page.get_by_role("heading", name="Where they were")).to_be_visible()
        expect(page.get_by_text("working it out…")).to_have_count(0)
        before = page.get_by_role("region", name="Takes of the day").inner_text()
        day = PracticeDay.objects.get(owner=self.angler)
        self.assertEqual((len(day.log), day.told), (1, None))
        # Another day on the same water is dealt by the device itself.
        page.get_by_role("button", name="Another day on this water").click()
        expect(page.get_by_text(re.compile("0 casts"))).to_be_visible()
        self.cast(page, 2)
        expect(page.get_by_text(re.compile("3 to send"))).to_be_visible()
        page.get_by_role("link", name="Practice", exact=True).first.click()
        days = page.get_by_role("list", name="Practice days")
        expect(days.get_by_text("on this device")).to_have_count(2)
        self.contexts[-1].set_offline(False)
        self.wait_for(lambda: [len(one.log) for one in PracticeDay.objects.filter(owner=self.angler)] == [2, 5])
        self.wait_for(lambda: PracticeDay.objects.get(pk=day.pk).told is not None)
        # What the server tells, played from the acts, is what the device told.
        told = PracticeDay.objects.get(pk=day.pk).told
        assert told is not None
        self.assertEqual(
            re.findall(r"\d+\.\d", before), [f"{told[who]:.1f}" for who in ("expected", "ladder", "advice", "knew")]
        )
        self.assertIn(f"{told['takes']} take", before)
        # The list lets go of what the server has and goes on with what is still played.
        page.reload()
        expect(days.get_by_text("on this device")).to_have_count(1)
        days.get_by_role("link", name=re.compile("who knew")).click()
        expect(page.get_by_role("region", name="Takes of the day")).to_have_text(before, use_inner_text=True)
        self.assert_no_faults()

    def test_a_day_that_two_devices_play_is_never_mixed(self) -> None:
        here = self.open(PHONE, service_workers="allow")
        self.sign_in(here, "/practice")
        here.evaluate("navigator.serviceWorker.ready.then(() => true)")
        self.deal(here)
        here.get_by_role("button", name="Take it along, for no signal").click()
        expect(here.get_by_text(re.compile("taken along: it goes on with no connection"))).to_be_visible()
        self.contexts[-1].set_offline(True)
        self.cast(here, 1)
        expect(here.get_by_text(re.compile("1 to send"))).to_be_visible()
        offline = self.contexts[-1]
        there = self.open()
        self.sign_in(there, here.url.split("/", 3)[3].join(("/", "")))
        expect(there.get_by_text(re.compile("taken along by another device"))).to_be_visible()
        there.get_by_role("button", name="Go on with it on this device").click()
        there.get_by_role("button", name=re.compile("^Sound the bottom")).click()
        self.wait_for(lambda: len(PracticeDay.objects.get(owner=self.angler).log) == 1)
        offline.set_offline(False)
        alert = here.get_by_role("alert")
        expect(alert).to_contain_text("Something else was done there")
        alert.get_by_role("button", name=re.compile("^Let go of it")).click()
        here.get_by_role("button", name="Go on with it on this device").click()
        expect(here.get_by_role("button", name=re.compile("^Sound the bottom done"))).to_be_disabled()
        expect(here.get_by_text(re.compile("0 casts"))).to_be_visible()
        here.get_by_role("button", name="Forget this day").click()
        here.get_by_role("button", name="Yes, forget this day").click()
        expect(here.get_by_text("None yet.")).to_be_visible()
        self.assertFalse(PracticeDay.objects.exists())
        self.assert_no_faults()

    def test_another_way_and_count_are_cast_as_they_are_shown_and_a_count_takes_its_time(self) -> None:
        page = self.open()
        self.sign_in(page, "/practice")
        self.deal(page)
        ways = page.get_by_role("region", name="Ways to fish")
        ways.get_by_role("button", name=re.compile("^Full sinker")).click()
        dial = page.get_by_role("slider", name="Count")
        dial.focus()
        page.keyboard.press("Home")
        for _ in range(2):
            page.keyboard.press("ArrowRight")
        expect(page.get_by_text(re.compile("count 2$"))).to_be_visible()
        page.get_by_role("radio", name="its count").click()
        page.get_by_role("button", name="Cast", exact=True).click()
        expect(page.get_by_role("button", name=re.compile("^Sinking"))).to_be_visible()
        expect(page.get_by_role("status").get_by_text(re.compile("^Cast 1:"))).to_be_visible()
        expect(page.get_by_role("img", name=re.compile("^From above"))).to_be_visible()
        self.assert_no_faults()

    def test_drills_are_scored_and_draw_a_curve(self) -> None:
        page = self.open()
        self.sign_in(page, "/practice")
        drills = page.get_by_role("region", name="Drills")
        drills.get_by_role("button", name="Set the float").click()
        drills.get_by_label(re.compile("^Your answer")).fill("2,5")
        drills.get_by_role("button", name="Answer").click()
        expect(drills.get_by_text(re.compile(r"^\d+ points$"))).to_be_visible()
        drills.get_by_role("button", name="Which line?").click()
        drills.get_by_role("button", name="Type 3 sinker").click()
        expect(drills.get_by_text(re.compile("The simulator says"))).to_be_visible()
        expect(drills.get_by_role("list", name="Getting better").get_by_role("listitem")).to_have_count(2)
        drills.get_by_role("button", name="Count, eyes shut").click()
        drills.get_by_role("button", name="Begin to count").click()
        drills.get_by_role("button", name="Now").click()
        expect(drills.get_by_text(re.compile("You counted"))).to_be_visible()
        self.assert_no_faults()


class FromAboveTests(AnglerTestCase):
    def test_the_line_is_seen_from_above_and_told_in_words(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        page.get_by_role("button", name="Choose the rig").click()
        expect(page.get_by_text("Best now")).to_be_visible()
        page.get_by_role("button", name=re.compile("^Under an indicator")).click()
        above = page.get_by_role("img", name=re.compile("^From above"))
        expect(above).to_be_visible()
        said = above.get_attribute("aria-label") or ""
        self.assertIn("the line bows", said)
        self.assertIn("Mend at", said)
        # A tow feels no wind: nothing is drawn from above.
        page.get_by_role("link", name="Tank").click()
        expect(page.get_by_role("img", name=re.compile("^From above"))).to_have_count(2)
        page.get_by_role("slider", name="Wind across").focus()
        page.keyboard.press("Home")
        expect(page.get_by_role("img", name=re.compile("^From above"))).to_have_count(0)
        self.assert_no_faults()

    def test_an_odd_oxygen_value_is_asked_about_and_followed_once_it_is_right(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        page.get_by_role("button", name="Add readings down the column").click()
        page.get_by_label("Paste a profile as CSV").fill(CSV)
        page.get_by_role("button", name="Take over").click()
        # The pasted rows are there before anything is written beside them.
        expect(page.get_by_label("Oxygen 8 in mg/L, if measured")).to_be_visible()
        for row, value in ((1, "9.4"), (3, "3.1"), (5, "9.5")):
            page.get_by_label(f"Oxygen {row} in mg/L, if measured").fill(value)
        odd = page.get_by_role("list", name="Odd oxygen readings")
        expect(odd.get_by_text(re.compile("stands alone"))).to_be_visible()
        odd.get_by_role("button", name="It is right").click()
        expect(odd.get_by_text(re.compile("Followed, because you checked it"))).to_be_visible()
        self.assert_no_faults()
