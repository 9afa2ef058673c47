"""Reading the water in the browser: first inputs, a profile, oxygen, signs, the day; bad input and units."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

from accounts.services import DEMO_USERNAME, sign_up
from demo.season import BRENNHOLT
from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE
from project.tests.people import PASSWORD
from waters.models import Water
from waters.services import save_water

CSV = "depth_ft;temp_F\n0;65,5\n3;65,3\n6;65,0\n10;64,2\n13;62,1\n16;58,0\n20;54,1\n23;52,0\n28;50,2\n"


def number(text: str | None) -> float:
    found = re.search(r"-?\d+(\.\d+)?", text or "")
    assert found, text
    return float(found[0])


class ReadingTests(AnglerTestCase):
    def test_a_newcomer_signs_up_adds_a_water_and_gets_an_answer_from_five_inputs(self) -> None:
        page = self.open()
        page.goto("/")
        page.get_by_label("Name").fill("newcomer")
        page.get_by_label("Password").fill("short")
        page.get_by_role("button", name="Sign up").click()
        expect(page.get_by_role("alert")).to_contain_text("too short")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign up").click()
        expect(page.get_by_role("heading", name="Which water?")).to_be_visible()
        page.get_by_label("Name").fill("Upper tarn")
        page.get_by_role("button", name="Keep this water").click()
        expect(page.get_by_role("alert")).to_contain_text("Say where it lies")
        coordinates = page.get_by_label("Or its coordinates")
        coordinates.fill("8.5 O 61.2 N")
        coordinates.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("Write a place as")
        coordinates.fill("61° 12.0′ N 8° 30.0′ E")
        coordinates.press("Enter")
        expect(page.get_by_label("Time zone, found from the place")).to_have_value("Europe/Oslo")
        page.get_by_role("button", name="Keep this water").click()
        expect(page.get_by_text("Most likely feeding")).to_be_visible()
        self.settle(page)
        # Nothing is measured yet, and each empty field says what stands for it.
        expect(page.get_by_text("measured 100 %")).to_have_count(0)
        expect(page.get_by_text(re.compile("^Not read:"))).to_have_count(6)
        page.get_by_label("Surface temperature").fill("14")
        expect(page.get_by_text(re.compile("^Not read:"))).to_have_count(5)
        page.get_by_label("Surface temperature").fill("")
        expect(page.get_by_text(re.compile("^Not read:"))).to_have_count(6)
        page.get_by_label("Surface temperature").fill("14")
        page.get_by_role("button", name="Choose the rig").click()
        expect(page.get_by_role("button", name="Fish this")).to_be_visible()
        self.assert_no_faults()

    def test_on_a_phone_the_first_answer_is_fourteen_taps_from_the_door(self) -> None:
        page = self.open(
            PHONE, has_touch=True, geolocation={"latitude": -41.3, "longitude": -72.6}, permissions=["geolocation"]
        )
        page.goto("/")
        taps = 0

        def tap(target: Locator) -> Locator:
            nonlocal taps
            taps += 1
            target.tap()
            return target

        tap(page.get_by_label("Name")).fill("newcomer")
        tap(page.get_by_label("Password")).fill(PASSWORD)
        tap(page.get_by_role("button", name="Sign up"))
        expect(page.get_by_role("heading", name="Which water?")).to_be_visible()
        tap(page.get_by_label("Name")).fill("South tarn")
        tap(page.get_by_role("button", name="Where I am"))
        expect(page.get_by_label("Time zone, found from the place")).to_have_value("America/Santiago")
        tap(page.get_by_role("button", name="Keep this water"))
        tap(page.get_by_label("Surface temperature")).fill("11,5")
        tap(page.get_by_label("Wind", exact=True)).fill("3")
        tap(page.get_by_role("radio", name="Broken"))
        self.settle(page)
        self.assertLessEqual(taps, 14)
        # The answer is in sight without a tap more: on a strip that stays while the inputs scroll.
        strip = page.get_by_text(re.compile(r"^\d+(\.\d+)?–\d+(\.\d+)? m down$"))
        expect(strip).to_be_in_viewport()
        page.mouse.wheel(0, 600)
        expect(strip).to_be_in_viewport()
        # What is given folds away when it is left.
        tap(page.get_by_role("radio", name="Sample"))
        page.get_by_label("Add what the sample held").focus()
        expect(page.get_by_text("11.5 °C at the top, 3 m/s from W, broken")).to_be_visible()
        self.assert_no_faults()

    def test_a_tap_on_the_map_of_the_world_is_a_place_with_its_clock(self) -> None:
        page = self.open(PHONE)
        self.sign_in(page)
        page.goto("/waters")
        page.get_by_role("button", name="Add a water").click()
        page.get_by_role("button", name="On a map").click()
        world = page.get_by_role("img", name=re.compile("^Map of the world"))
        box = world.bounding_box()
        assert box is not None
        # A tap in the middle of the sheet, once it is drawn: the meridian of Greenwich, somewhat north of the equator.
        world.click(position={"x": box["width"] / 2, "y": box["height"] / 2})
        coordinates = page.get_by_label("Or its coordinates")
        expect(coordinates).to_have_value(re.compile(r"^1\d° .* N 0° 00.000′ E$"))
        expect(page.get_by_label("Time zone, found from the place")).to_have_value(re.compile("^Africa/"))
        for _ in range(3):
            page.get_by_role("button", name="Nearer").click()
        expect(page.get_by_text(re.compile(r"good to \d\.\d km"))).to_be_visible()
        page.get_by_label("Time zone, found from the place").fill("Africa/Nowhere")
        expect(page.get_by_text("No such time zone.")).to_be_visible()
        self.assert_no_faults()

    def test_a_device_that_tells_no_position_says_so(self) -> None:
        page = self.open(PHONE)  # permission was not given
        self.sign_in(page)
        page.goto("/waters")
        page.get_by_role("button", name="Add a water").click()
        page.get_by_role("button", name="Where I am").click()
        expect(page.get_by_role("alert")).to_contain_text("Use the map, or type coordinates.")
        self.assert_no_faults()

    def test_the_demo_angler_enters_with_one_button(self) -> None:
        demo = sign_up(username=DEMO_USERNAME, password=PASSWORD)
        save_water(water=Water(owner=demo), changes=dict(BRENNHOLT))
        page = self.open()
        page.goto("/")
        page.get_by_role("button", name="Enter as the demo angler").click()
        expect(page.get_by_text("Most likely feeding")).to_be_visible()
        self.assert_no_faults()

    def test_a_pasted_profile_narrows_the_guess_and_draws_the_thermocline(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        guess = number(page.get_by_text(re.compile(r"^guess \d+ %")).text_content())
        page.get_by_role("button", name="Add readings down the column").click()
        page.get_by_label("Paste a profile as CSV").fill(CSV)
        page.get_by_role("button", name="Take over").click()
        expect(page.get_by_text("9 readings taken over.")).to_be_visible()
        expect(page.get_by_label("Depth 3 in m")).to_have_value("3")
        expect(page.get_by_text("thermocline", exact=True)).to_be_visible()
        expect(page.get_by_text(re.compile(r"^guess \d+ %"))).not_to_have_text(f"guess {guess:.0f} %")
        self.assertLess(number(page.get_by_text(re.compile(r"^guess \d+ %")).text_content()), guess)
        self.assert_no_faults()

    def test_oxygen_an_odd_reading_and_an_earlier_one_are_shown_and_answered(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        page.get_by_role("button", name="Add readings down the column").click()
        page.get_by_label("Paste a profile as CSV").fill(CSV)
        page.get_by_role("button", name="Take over").click()
        page.get_by_label("Oxygen 8 in mg/L, if measured").fill("2")
        expect(page.get_by_role("region", name="Why")).to_contain_text("Measured oxygen runs short")
        page.get_by_label("Temperature 4 in °C").fill("28")
        odd = page.get_by_role("list", name="Odd readings")
        expect(odd).to_contain_text("Not followed until you say it is right")
        page.get_by_role("button", name="It is right").click()
        expect(odd).to_contain_text("Followed, because you checked it.")
        page.get_by_role("button", name=re.compile("Read again at")).click()
        expect(page.get_by_role("list", name="Earlier readings")).to_contain_text("9 in all")
        page.get_by_label("Surface temperature").fill("20")
        expect(page.get_by_text(re.compile("has warmed to 20.0 °C"))).to_be_visible()
        page.get_by_label("Surface temperature").fill("0")
        page.get_by_label("Ice on the water").check()
        expect(page.get_by_role("list", name="Cautions")).to_contain_text("Ice: no plan is made for it")
        expect(page.get_by_role("button", name="Choose the rig")).to_be_disabled()
        self.assert_no_faults()

    def test_signs_and_a_sample_change_what_they_are_likely_on(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        food = page.get_by_role("region", name="Likely food")
        page.get_by_role("radio", name="Signs").click()
        page.get_by_role("button", name="Quiet sips").click()
        page.get_by_role("button", name="Empty shucks drifting").click()
        expect(food.get_by_role("listitem").first).to_contain_text("Midge pupa")
        expect(food.get_by_text("Seen: quiet sips.").first).to_be_visible()
        page.get_by_role("button", name="Nothing shows").click()
        expect(page.get_by_role("button", name="Quiet sips")).to_have_attribute("aria-pressed", "false")
        page.get_by_role("radio", name="Sample").click()
        page.get_by_label("Add what the sample held").select_option(label="Leech")
        page.get_by_label("How many: Leech").fill("4")
        expect(food.get_by_role("listitem").first).to_contain_text("Leech")
        expect(food.get_by_text("4 in the sample.")).to_be_visible()
        page.reload()
        expect(food.get_by_role("listitem").first).to_contain_text("Leech")
        self.assert_no_faults()

    def test_the_day_strip_shows_every_hour_and_the_wind_where_to_cast(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        page.get_by_role("radio", name="The day").click()
        strip = page.get_by_role("img", name=re.compile(r"12:00: \d"))
        expect(strip).to_be_visible()
        expect(page.get_by_text(re.compile(r"Sun from 0\d:\d\d to 2\d:\d\d"))).to_be_visible()
        page.get_by_label("Wind from").select_option(label="S")
        expect(page.get_by_text("cast across, toward W or E")).to_be_visible()
        page.get_by_role("radio", name="The day").press("ArrowLeft")
        expect(page.get_by_role("radio", name="This hour")).to_be_focused()
        page.keyboard.press("Space")
        expect(page.get_by_role("slider", name="Depth in the Column")).to_be_visible()
        expect(page.get_by_role("radio", name="This hour")).to_be_focused()
        self.assert_no_faults()

    def test_bad_readings_are_answered_at_the_field_and_the_last_good_picture_stays(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        temperature = page.get_by_label("Surface temperature")
        temperature.fill("warm")
        expect(page.get_by_role("alert")).to_have_text("Type a number.")
        temperature.fill("45")
        expect(page.get_by_role("alert")).to_have_text("Between -1 and 40 °C.")
        temperature.fill("18.6")
        expect(page.get_by_role("alert")).to_have_count(0)
        page.get_by_label("Wind", exact=True).fill("-3")
        expect(page.get_by_role("alert")).to_have_text("Between 0 and 40 m/s.")
        page.get_by_label("Wind", exact=True).fill("3")
        page.get_by_label("Day and time at the water").fill("2031-07-14T10:40")
        expect(page.get_by_role("alert")).to_contain_text("more than 14 days ahead")
        page.get_by_label("Day and time at the water").fill("2026-07-14T10:40")
        expect(page.get_by_role("alert")).to_have_count(0)
        page.get_by_role("button", name="Add readings down the column").click()
        for text, words in (
            ("depth_m\n1\n2\n", "one column"),
            ("depth_m,water_c\n0,15\n3,14\n2,13\n", "depth goes up"),
            ("depth_m,water_c\n0,hot\n", "'hot' is not a temperature"),
        ):
            page.get_by_label("Paste a profile as CSV").fill(text)
            page.get_by_role("button", name="Take over").click()
            expect(page.get_by_role("alert")).to_contain_text(words)
        expect(page.get_by_text("Most likely feeding")).to_be_visible()
        self.assert_no_faults()

    def test_units_change_on_the_spot_and_stay_with_the_person(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        self.open_units(page)
        page.get_by_role("radio", name="ft", exact=True).click()
        page.get_by_role("radio", name="°F").click()
        page.keyboard.press("Escape")
        expect(page.get_by_label("Surface temperature")).to_have_value("65.48")
        expect(page.get_by_label("Bottom depth here")).to_have_value("29.53")
        other = self.open()
        self.sign_in(other)
        expect(other.get_by_label("Bottom depth here")).to_be_visible()
        expect(other.locator("main").get_by_text("ft", exact=True).first).to_be_visible()
        self.assert_no_faults()
