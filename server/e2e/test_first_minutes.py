"""What a newcomer meets: the demo walked through at once, help on every screen, the box, pictures to send, an old reading."""

from __future__ import annotations

import re

from django.utils import timezone
from playwright.sync_api import Page, expect

from accounts.services import DEMO_USERNAME, sign_up
from demo.season import BRENNHOLT, TRESCANAS
from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE
from project.tests.people import PASSWORD
from waters.models import Water
from waters.services import rules_of, save_water, today_at

PNG = b"\x89PNG\r\n\x1a\n"


class FirstMinutesTests(AnglerTestCase):
    def enter_demo(self, page: Page) -> None:
        demo = sign_up(username=DEMO_USERNAME, password=PASSWORD)
        for fields in (BRENNHOLT, TRESCANAS):
            save_water(water=Water(owner=demo), changes=dict(fields))
        page.goto("/")
        page.get_by_role("button", name="Enter as the demo angler").click()
        expect(page.get_by_text("Most likely feeding")).to_be_visible()

    def test_the_demo_begins_at_the_water_that_is_open_today_and_is_walked_to_its_end(self) -> None:
        page = self.open(PHONE)
        self.enter_demo(page)
        # By the calendar of the two: the northern one from 15 April to October, the southern one from November to 1 May.
        now = timezone.now()
        northern = (now.month, now.day) >= (4, 15) and now.month <= 10
        name = "Brennholt Reservoir" if northern else "Laguna Trescañas"
        self.assertTrue(rules_of(water := Water.objects.filter(name=name).latest("pk")).open_on(today_at(water)))
        self.unfold(page)
        expect(page.get_by_label("Water", exact=True).locator("option:checked")).to_have_text(name)
        hint = page.get_by_role("complementary", name="Through the demo in five steps")
        expect(hint).to_contain_text("1 of 5")
        hint.get_by_role("link", name="Rig").click()
        expect(hint).to_contain_text("2 of 5")
        page.get_by_role("button", name="Fish this").click()
        expect(hint).to_contain_text("3 of 5")
        page.get_by_role("button", name="Cast", exact=True).click()
        page.get_by_role("button", name="Take", exact=True).click()
        expect(page.get_by_text("all sent")).to_be_visible()
        hint.get_by_role("link", name="Look back").click()
        expect(hint).to_contain_text("4 of 5")
        expect(page.get_by_role("heading", name=re.compile("^1 day"))).to_be_visible()
        hint.get_by_role("link", name="Waters").click()
        hint.get_by_role("button", name="Put this hint away").click()
        expect(hint).to_have_count(0)
        page.goto("/read")
        expect(page.get_by_text("Most likely feeding")).to_be_visible()
        expect(hint).to_have_count(0)
        self.open_units(page)
        page.get_by_role("button", name="Start with my own water").click()
        expect(page.get_by_role("button", name="Sign up")).to_be_visible()
        self.assert_no_faults()

    def test_help_opens_at_the_screen_one_is_on_and_needs_no_signal(self) -> None:
        page = self.open(PHONE, service_workers="allow")
        self.sign_in(page)
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        page.wait_for_function("navigator.serviceWorker.controller !== null")
        self.contexts[-1].set_offline(True)
        for path, title, said in (
            ("/box", "Box", "what runs low"),
            ("/you/log", "You", "Save everything"),
            ("/read", "Read", "The gold ridge"),
        ):
            page.goto(path)
            self.reach(page, page.get_by_role("button", name="Help")).click()
            sheet = page.get_by_role("dialog", name=title)
            expect(sheet).to_contain_text(said)
            # Safety stands on every page of it.
            expect(sheet).to_contain_text("Cold water takes your breath")
            sheet.get_by_role("button", name="Close").click()
            expect(sheet).to_have_count(0)
        self.assert_no_faults()

    def test_the_box_is_searched_by_words_by_food_and_by_what_runs_low(self) -> None:
        page = self.open(PHONE)
        self.sign_in(page, "/box")
        flies = page.get_by_role("list", name="Your flies, scrolls").get_by_role("listitem")
        expect(flies).to_have_count(12)
        page.get_by_role("button", name=re.compile(r"^Show all \d+")).click()
        expect(flies).not_to_have_count(12)
        page.get_by_role("searchbox", name="Find in the box").fill("buoy attr")
        expect(flies).to_have_count(1)
        expect(flies.first).to_contain_text("Orange buoyant attractor")
        page.get_by_role("searchbox", name="Find in the box").fill("")
        low = page.get_by_role("button", name=re.compile(r"^Running low \(\d+\)"))
        low.click()
        expect(low).to_have_attribute("aria-pressed", "true")
        many = re.search(r"\d+", low.inner_text())
        assert many is not None
        expect(flies).to_have_count(int(many[0]))
        page.get_by_role("searchbox", name="Find in the box").fill("no such thing")
        expect(page.get_by_text("No fly in the box is like that.")).to_be_visible()
        page.get_by_role("searchbox", name="Find in the box").fill("sink")
        page.get_by_role("radio", name="Lines").click()
        expect(page.get_by_role("listitem").filter(has_text="Type 3 sinker")).to_be_visible()
        expect(page.get_by_role("listitem").filter(has_text="Floating")).to_have_count(0)
        for button in page.locator("button").all():
            box = button.bounding_box()
            self.assertTrue(box is None or min(box["width"], box["height"]) >= 24, button.inner_text())
        self.assert_no_faults()

    def test_the_day_card_and_the_season_go_out_as_pictures_with_the_page_s_own_letters(self) -> None:
        page = self.open()
        self.start_fishing(page)
        page.get_by_role("button", name="Cast", exact=True).click()
        page.get_by_role("button", name="Take", exact=True).click()
        expect(page.get_by_text("all sent")).to_be_visible()
        page.goto("/rig")
        page.get_by_role("link", name="day card").click()
        expect(page.get_by_role("article", name="Day card")).to_contain_text("Light.")
        for name, where in (("day-card.png", None), ("season.png", "/poster")):
            if where:
                page.goto(where)
                expect(page.get_by_role("article", name="Poster of the season")).to_contain_text("1 day")
            with page.expect_download() as coming:
                page.get_by_role("button", name="As a picture").click()
            picture = coming.value.path().read_bytes()
            self.assertEqual((coming.value.suggested_filename, picture[:8]), (name, PNG))
            self.assertGreater(int.from_bytes(picture[16:20], "big"), 1000)  # its width, twice that of the sheet
            self.assertGreater(len(picture), 20_000)
        self.assert_no_faults()

    def test_what_was_read_for_another_day_says_so_and_is_begun_anew(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        expect(page.get_by_text("This is the water of Tue 14 Jul, 10:40.")).to_be_visible()
        page.get_by_role("button", name="Read it as it is now").click()
        expect(page.get_by_text(re.compile("^This is the water of"))).to_have_count(0)
        # The bottom was given and stays; what the day changes is not read yet.
        expect(page.get_by_label("Bottom depth here")).to_have_value("9")
        expect(page.get_by_label("Surface temperature")).to_have_value("")
        self.assert_no_faults()
