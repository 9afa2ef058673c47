"""From a first reading to a logged fish, as an angler does it: at the table, then on a phone at the water."""

from __future__ import annotations

import re
import time

from playwright.sync_api import expect

from accounts.services import DEMO_USERNAME, sign_up
from days.models import Day, Entry, Presentation
from demo.season import BRENNHOLT
from e2e.angler import AnglerTestCase
from e2e.browser import PHONE
from project.tests.people import PASSWORD
from waters.models import Water
from waters.services import save_water

CSV = "depth_ft;temp_F\n0;65,5\n3;65,3\n6;65,0\n10;64,2\n13;62,1\n16;58,0\n20;54,1\n23;52,0\n28;50,2\n"


def number(text: str | None) -> float:
    found = re.search(r"-?\d+(\.\d+)?", text or "")
    assert found, text
    return float(found[0])


class OutingTests(AnglerTestCase):
    def test_a_newcomer_signs_up_adds_a_water_and_gets_an_answer_from_five_inputs(self) -> None:
        page = self.open()
        page.goto("/")
        page.get_by_label("Name").fill("newcomer")
        page.get_by_label("Password").fill("short")
        page.get_by_role("button", name="Sign up").click()
        expect(page.get_by_role("alert")).to_contain_text("too short")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign up").click()
        page.get_by_role("button", name="Add a water").click()
        page.get_by_label("Name").fill("Upper tarn")
        page.get_by_role("button", name=re.compile("Save|Keep|Add this")).click()
        expect(page.get_by_role("heading", name="Upper tarn")).to_be_visible()
        page.get_by_role("link", name="Read", exact=True).click()
        expect(page.get_by_text("Most likely feeding")).to_be_visible()
        page.get_by_role("button", name="Choose the rig").click()
        expect(page.get_by_role("button", name="Fish this")).to_be_visible()
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

    def test_dials_redraw_from_the_server_and_the_choice_survives_a_reload(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        self.rig_by_line(page)
        choices = page.get_by_role("button", name=re.compile(r", count \d+"))
        expect(choices).to_have_count(14)
        page.get_by_role("button", name=re.compile("^Type 5 sinker")).click()
        heading = page.get_by_role("heading", level=1)
        expect(heading).to_contain_text("Type 5 sinker, count")
        dial = page.get_by_role("slider", name="Count")
        dial.focus()
        page.keyboard.press("Home")
        expect(heading).to_have_text("Type 5 sinker, count 0")
        shallow = page.get_by_text(re.compile(r"starts .* deepest")).text_content()
        for _ in range(3):
            page.keyboard.press("PageUp")
        expect(heading).to_have_text("Type 5 sinker, count 30")
        expect(page.get_by_text(re.compile(r"The sum says 3\.8 m"))).to_be_visible()
        self.assertNotEqual(page.get_by_text(re.compile(r"starts .* deepest")).text_content(), shallow)
        column = page.get_by_role("slider", name="Depth in the Column")
        column.focus()
        page.keyboard.press("PageDown")
        self.assertRegex(column.get_attribute("aria-valuetext") or "", r"1\.0 m; .*°C.*fly here \d+ s a cast")
        page.reload()
        expect(heading).to_have_text("Type 5 sinker, count 30")
        self.assert_no_faults()

    def test_units_change_on_the_spot_and_stay_with_the_person(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        page.get_by_role("button", name="Units and you").click()
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

    def test_a_team_over_a_ledge_shows_each_flys_depth_and_is_logged_as_tied(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        self.rig_by_line(page)
        page.get_by_label("Point fly").select_option(label="Slim olive nymph")
        page.get_by_role("button", name=re.compile("^Add a fly")).click()
        page.get_by_label("Dropper 1", exact=True).select_option(label="Black ribbed pupa")
        depths = page.get_by_role("row", name=re.compile("Black ribbed pupa"))
        expect(depths).to_contain_text(re.compile(r"\d\.\d m"))
        far = page.get_by_role("slider", name="Bottom at the far end")
        far.focus()
        for _ in range(3):
            page.keyboard.press("PageDown")
        self.assertEqual(far.get_attribute("aria-valuetext"), "6.0 m")
        weed = page.get_by_role("slider", name="Weed on the bottom")
        weed.focus()
        page.keyboard.press("PageUp")
        expect(page.get_by_text("1.0 m high")).to_be_visible()
        page.get_by_role("button", name="Fish this").click()
        expect(page.get_by_role("button", name="Cast", exact=True)).to_be_visible()
        stored = Presentation.objects.get()
        self.assertEqual([placed["fly"]["name"] for placed in stored.flies], ["Slim olive nymph", "Black ribbed pupa"])
        day = Day.objects.get()
        self.assertEqual(day.weed_m, 1.0)
        self.assertEqual(day.far_bottom_depth_m, 6.0)
        self.assert_no_faults()

    def test_every_method_is_offered_compared_decided_and_put_on_a_card(self) -> None:
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        page.get_by_role("button", name="Choose the rig").click()
        heading = page.get_by_role("heading", level=1)
        expect(page.get_by_text("The best of each method")).to_be_visible()
        expect(page.get_by_role("region", name="When nothing comes").get_by_role("listitem").first).to_contain_text(
            "Begin with"
        )
        page.get_by_role("button", name="Under an indicator").click()
        expect(heading).to_contain_text("float at")
        expect(page.get_by_role("region", name="How to tie it")).to_contain_text("swivel to fly")
        expect(page.get_by_role("slider", name="Depth in the Column")).to_be_visible()
        page.get_by_label("Compare Under an indicator").check()
        page.get_by_label("Compare Washing line").check()
        expect(page.get_by_role("table", name="Side by side").get_by_role("columnheader")).to_have_count(3)
        page.get_by_text("Best expected, from the bank").click()
        page.get_by_label("Fishing from").select_option(label="Boat")
        expect(page.get_by_role("button", name=re.compile("^Drifting boat"))).to_be_visible()
        page.get_by_label("This line").select_option(label="Type 5 sinker")
        expect(heading).to_contain_text("Type 5 sinker")
        page.get_by_label("This line").select_option(label="Any line")
        page.get_by_role("button", name="Under an indicator").click()
        page.get_by_role("link", name="day card").click()
        card = page.get_by_role("article", name="Day card")
        expect(card).to_contain_text("When nothing comes")
        expect(card).to_contain_text("Local rules and your licence come first.")
        with page.expect_download() as saved:
            page.get_by_role("button", name="Calendar (.ics)").click()
        self.assertEqual(saved.value.suggested_filename, "day.ics")
        page.emulate_media(media="print")
        expect(page.get_by_role("button", name="Print, or save as PDF")).to_be_hidden()
        self.assert_no_faults()

    def test_the_box_counts_flies_takes_new_ones_and_the_plan_ties_them_on(self) -> None:
        page = self.open()
        self.sign_in(page, "/box")
        page.get_by_label("Passing for").select_option(label="Leech")
        page.get_by_role("button", name="One Black marabou leech less").click()
        row = page.get_by_role("listitem").filter(has_text="Black marabou leech")
        expect(row).to_contain_text("1")
        page.get_by_label("Name, in your own words").fill("Grandfather's leech")
        page.get_by_label("Passes for").select_option(label="Leech")
        page.get_by_role("button", name="Add the fly").click()
        expect(page.get_by_text("Grandfather's leech")).to_be_visible()
        page.get_by_label("Rod length").select_option(label="9 ft")
        page.get_by_role("form", name="Add to rods").get_by_role("button", name="Add").click()
        expect(page.get_by_text("9 ft, number 6")).to_be_visible()
        builder = page.get_by_role("region", name="Build a leader")
        builder.get_by_label("Hangs from").select_option(label="A fixed float")
        builder.get_by_label("Float to point").fill("6.1")
        expect(builder).to_contain_text("splice")
        expect(builder).to_contain_text("it can't be landed")
        builder.get_by_role("button", name="Keep it in the box").click()
        expect(page.get_by_text("6.1 m under a float")).to_be_visible()
        page.get_by_label("CSV in: flies").set_input_files(
            {"name": "flies.csv", "mimeType": "text/csv", "buffer": b"name,hook_size\nWrong,13\n"}
        )
        expect(page.get_by_role("alert")).to_contain_text("Line 2: hook size 13 is not known")
        page.get_by_label("CSV in: lines").set_input_files(
            {"name": "lines.csv", "mimeType": "text/csv", "buffer": b"name,class_key,number\nBroom handle,type-5,8\n"}
        )
        expect(page.get_by_text("1 lines added, 0 changed.")).to_be_visible()
        expect(page.get_by_text("Broom handle")).to_be_visible()
        page.goto("/read")
        self.read_water(page)
        page.get_by_role("button", name="Choose the rig").click()
        page.get_by_text("Best expected, from the bank").click()
        page.get_by_label("This fly on the point").select_option(label="Grandfather's leech")
        expect(page.get_by_role("list", name="Flies").get_by_role("listitem").first).to_contain_text("Grandfather's leech")
        page.get_by_label(re.compile("^Rod")).select_option(label="9 ft, number 6")
        expect(page.get_by_text("Best now")).to_be_visible()
        self.assert_no_faults()

    def test_what_the_water_forbids_is_left_out_with_the_reason(self) -> None:
        self.water.rules = {"indicators": False, "most_flies": 1}
        self.water.save()
        page = self.open()
        self.sign_in(page)
        self.read_water(page)
        page.get_by_role("button", name="Choose the rig").click()
        page.get_by_text("methods left out, and why").click()
        expect(page.get_by_text("Indicators are not allowed on this water.")).to_be_visible()
        expect(page.get_by_role("list", name="Flies").get_by_role("listitem")).to_have_count(1)
        self.assert_no_faults()

    def test_the_tank_compares_a_cast_with_an_indicator(self) -> None:
        page = self.open()
        self.sign_in(page, "/tank")
        page.get_by_role("group", name="Rig B").get_by_role("radio", name="Indicator").click()
        expect(page.get_by_text("short of its set depth")).to_be_visible()
        expect(page.get_by_text("carries it")).to_be_visible()
        works = page.get_by_text("works at").first.locator("xpath=following-sibling::*").text_content()
        value = page.get_by_text("works at").first.locator("xpath=following-sibling::*")
        rig_a = page.get_by_role("group", name="Rig A")
        rig_a.get_by_label("Line", exact=True).select_option(label="Type 7 sinker")
        expect(value).not_to_have_text(works or "")
        anchored = value.text_content()
        boat = rig_a.get_by_role("slider", name="Boat drifts on to it")
        boat.focus()
        page.keyboard.press("PageUp")
        expect(boat).to_have_attribute("aria-valuetext", "10 cm/s")
        expect(value).not_to_have_text(anchored or "")
        self.assert_no_faults()

    def stored(self) -> list[str]:
        return list(Entry.objects.filter(undone_at=None).order_by("at").values_list("kind", flat=True))

    def expect_stored(self, *kinds: str) -> None:
        """Wait until these and no other entries have arrived: the device sends when it can, not when a test looks."""
        until = time.monotonic() + 10.0
        while self.stored() != list(kinds) and time.monotonic() < until:
            time.sleep(0.05)
        self.assertEqual(self.stored(), list(kinds))

    def test_a_cast_a_knock_and_a_fish_are_logged_once_on_a_phone_and_listed(self) -> None:
        page = self.open(PHONE, has_touch=True)
        self.start_fishing(page)
        page.get_by_role("button", name="Cast", exact=True).dblclick()
        expect(page.get_by_role("button", name="Cast again")).to_be_visible()
        page.get_by_role("button", name="Knock").click()
        page.get_by_role("button", name="Take").click()
        page.get_by_role("button", name="Undo take").click()
        page.get_by_role("button", name="Landed").click()
        page.get_by_role("radio", name="Brown").click()
        page.get_by_role("slider", name="Length").press("ArrowRight")
        page.get_by_role("button", name="Save 39 cm").click()
        expect(page.get_by_text("1 cast · 1 knock · 1 take · 1 landed")).to_be_visible()
        self.expect_stored("cast", "knock", "landed")
        expect(page.get_by_text("all sent")).to_be_visible()
        fish = Entry.objects.get(kind="landed")
        self.assertEqual((fish.species, fish.length_m), ("brown", 0.39))
        self.assertLess(fish.depth_low_m, fish.depth_high_m)
        page.reload()
        expect(page.get_by_text("1 cast · 1 knock · 1 take · 1 landed")).to_be_visible()
        page.get_by_role("link", name="Look back").click()
        page.get_by_role("link", name=re.compile("Brennholt")).click()
        expect(page.get_by_text("landed", exact=True)).to_be_visible()
        expect(page.get_by_text("brown 39 cm")).to_be_visible()
        self.assertEqual((Day.objects.count(), Presentation.objects.count()), (1, 1))
        self.assert_no_faults()

    def test_a_float_is_fished_by_its_own_clock_with_the_ladder_below_and_logged_as_a_float(self) -> None:
        page = self.open(PHONE)
        page.clock.install()
        self.sign_in(page)
        self.read_water(page)
        page.get_by_role("button", name="Choose the rig").click()
        page.get_by_role("button", name="Under an indicator").click()
        heading = page.get_by_role("heading", level=1)
        expect(heading).to_contain_text("float at")
        page.get_by_role("button", name="Fish this").click()
        clock = page.get_by_role("timer", name="Count")
        expect(clock).to_contain_text("ready: tap Cast as the float lands")
        page.get_by_role("button", name="Cast", exact=True).click()
        expect(clock).to_contain_text("let it sink and hang")
        page.clock.run_for(300_000)
        expect(clock).to_contain_text("Recast")
        page.get_by_role("button", name="Take").click()
        self.expect_stored("cast", "take")
        expect(page.get_by_role("region", name="When nothing comes")).to_contain_text("Set the float at")
        fished = Presentation.objects.get()
        self.assertIn("float at", str(fished))
        # What is kept is where the fly hung, not where the leader says it should have.
        took = Entry.objects.get(kind="take")
        self.assertLessEqual(took.depth_low_m, (fished.hang or {})["set_depth_m"])
        self.assertAlmostEqual((took.depth_low_m + took.depth_high_m) / 2, fished.path_depth_m[-1], delta=0.02)
        self.assert_no_faults()

    def test_entries_made_without_a_connection_are_sent_once_it_is_back(self) -> None:
        page = self.open(PHONE)
        self.start_fishing(page)
        context = self.contexts[-1]
        context.set_offline(True)
        page.get_by_role("button", name="Cast", exact=True).click()
        page.get_by_role("button", name="Nothing").click()
        page.get_by_role("button", name="Cast", exact=True).click()
        page.get_by_role("button", name="Lost").click()
        expect(page.get_by_text("4 kept here, sent when there is a connection")).to_be_visible()
        self.assertEqual(self.stored(), [])
        context.set_offline(False)
        self.expect_stored("cast", "nothing", "cast", "lost")
        expect(page.get_by_text("all sent")).to_be_visible()
        self.assert_no_faults()

    def test_keys_reach_every_step_and_fish_a_cast(self) -> None:
        page = self.open()
        self.start_fishing(page)
        for key, button in (("c", "Cast again"), ("k", "Undo knock"), ("n", "Undo nothing")):
            page.keyboard.press(key)
            expect(page.get_by_role("button", name=button)).to_be_visible()
        expect(page.get_by_text("1 cast · 1 knock ·")).to_be_visible()
        page.keyboard.press("u")
        expect(page.get_by_role("button", name="Undo knock")).to_be_visible()
        page.keyboard.press("?")
        expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
        page.keyboard.press("Escape")
        for key, place in (("1", "/read"), ("2", "/rig"), ("4", "/log"), ("5", "/waters"), ("6", "/box")):
            page.keyboard.press(key)
            page.wait_for_url(f"**{place}")
        self.assert_no_faults()
