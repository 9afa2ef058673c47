"""At the water: the count, the log and what becomes of it without a connection, on a phone and by keys."""

from __future__ import annotations

import base64
import random
import re
from itertools import pairwise

from playwright.sync_api import FilePayload, Request, expect

from accounts.models import Preferences
from days.models import Day, Entry, Photo, Presentation
from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE
from project.tests.people import picture
from stillthread.api import RETRIEVES
from waters.services import save_water


def without_clocks(request: Request) -> dict[str, str]:
    return {name: said for name, said in request.headers.items() if name not in {"x-written-ms", "x-now-ms", "x-ran-ms"}}


KEY_OF = {"cast": "c", "nothing": "n", "knock": "k", "take": "t", "lost": "l"}
ENDS = ("nothing", "take", "lost")


class FishingTests(AnglerTestCase):
    def stored(self) -> list[str]:
        return list(Entry.objects.filter(undone_at=None).order_by("at").values_list("kind", flat=True))

    def expect_stored(self, *kinds: str) -> None:
        """Wait until these and no other entries have arrived."""
        self.wait_for(lambda: self.stored() == list(kinds))
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
        page.get_by_role("button", name="Keep 39 cm").click()
        expect(page.get_by_text("1 cast · 1 knock · 1 take · 1 landed")).to_be_visible()
        self.expect_stored("cast", "knock", "landed")
        expect(page.get_by_text("all sent")).to_be_visible()
        fish = Entry.objects.get(kind="landed")
        self.assertEqual((fish.species, fish.length_m, fish.kept), ("brown", 0.39, True))
        self.assertLess(fish.depth_low_m, fish.depth_high_m)
        page.reload()
        expect(page.get_by_text("1 cast · 1 knock · 1 take · 1 landed")).to_be_visible()
        page.get_by_role("link", name="Look back").click()
        page.get_by_role("link", name=re.compile("Brennholt")).click()
        expect(page.get_by_text("Landed", exact=True)).to_be_visible()
        expect(page.get_by_text(re.compile("brown 39 cm, about 0.7. kg, kept"))).to_be_visible()
        self.assertEqual((Day.objects.count(), Presentation.objects.count()), (1, 1))
        self.assert_no_faults()

    def test_a_fish_is_played_pictured_and_released_without_signal_and_arrives_as_one(self) -> None:
        page = self.open(PHONE)
        self.start_fishing(page)
        self.contexts[-1].set_offline(True)
        page.get_by_role("button", name="Cast", exact=True).click()
        page.get_by_role("button", name="Take").click()
        page.get_by_role("button", name="Landed").click()
        landed = page.get_by_role("region", name="Landed")
        expect(landed).to_contain_text(re.compile(r"Played \d:\d\d"))
        expect(landed).to_contain_text("by its length, not weighed")
        page.get_by_role("button", name="Weighed").click()
        page.get_by_role("slider", name="Weight, weighed").press("ArrowRight")
        expect(landed).to_contain_text("of what is usual for its length")
        image = base64.b64decode(picture(3000, 2000))
        picked = FilePayload(name="fish.jpg", mimeType="image/jpeg", buffer=image)
        page.get_by_label("Picture").set_input_files([picked])
        expect(landed).to_contain_text("Another picture")
        page.get_by_role("button", name="Release 38 cm").click()
        hold = page.get_by_role("timer", name="Holding")
        expect(hold).to_contain_text("Hold it upright")
        page.get_by_role("button", name="It swam off").click()
        expect(hold).to_have_count(0)
        expect(page.get_by_text("1 cast · 0 knocks · 1 take · 1 landed")).to_be_visible()
        self.contexts[-1].set_offline(False)
        self.expect_stored("cast", "take", "landed")
        fish = Entry.objects.get(kind="landed")
        self.assertEqual((fish.kept, fish.length_m), (False, 0.38))
        self.assertGreater(fish.weight_kg or 0.0, 0.5)
        self.assertIsNotNone(fish.played_s)
        # Where it took, not where the fly was by the time it was in the net.
        self.assertEqual(fish.depth_low_m, Entry.objects.get(kind="take").depth_low_m)
        self.wait_for(lambda: Photo.objects.exists())
        self.assertEqual((Photo.objects.get().width_px, Photo.objects.get().height_px), (1600, 1067))
        self.assertEqual(self.client_counts()["take"], 0)
        page.get_by_role("link", name="Look back").click()
        page.get_by_role("link", name=re.compile("Brennholt")).click()
        expect(page.get_by_role("img", name=re.compile("The fish landed at"))).to_be_visible()
        self.assert_no_faults()

    def client_counts(self) -> dict[str, int]:
        self.client.force_login(self.angler)
        counts: dict[str, int] = self.client.get("/api/days").json()["items"][0]["counts"]
        return counts

    def test_the_beat_calls_every_pull_and_the_left_hand_has_its_own_side(self) -> None:
        Preferences.objects.update_or_create(user=self.angler, defaults={"beat_on": True, "left_handed": True})
        page = self.open(PHONE)
        page.add_init_script(
            "window.tones = []; const start = OscillatorNode.prototype.start;"
            "OscillatorNode.prototype.start = function (at) { window.tones.push(at); return start.call(this, at) }"
        )
        self.start_fishing(page)
        page.get_by_role("button", name="Cast", exact=True).click()
        expect(page.get_by_role("button", name="Cast again")).to_be_visible()
        self.wait_for(lambda: page.evaluate("window.tones.length") > 5)
        tones = page.evaluate("window.tones")
        retrieve = RETRIEVES[Presentation.objects.get().action["retrieve_key"]]
        steps = [later - sooner for sooner, later in pairwise(tones[1:6])]
        self.assertTrue(all(abs(step - retrieve.pull_s - retrieve.pause_s) < 0.01 for step in steps), tones)
        nothing, knock = (page.get_by_role("button", name=name).bounding_box() for name in ("Nothing", "Knock"))
        assert nothing is not None
        assert knock is not None
        self.assertLess(knock["x"], nothing["x"])
        self.assert_no_faults()

    def test_a_full_bag_and_release_only_leave_no_way_to_keep(self) -> None:
        save_water(water=self.water, changes={"rules": {**self.water.rules, "bag_limit": 1}})
        page = self.open(PHONE)
        self.start_fishing(page)
        page.get_by_role("button", name="Landed").click()
        page.get_by_role("button", name="Keep 38 cm").click()
        expect(page.get_by_role("button", name="Undo landed")).to_be_visible()
        page.get_by_role("button", name="Landed", exact=True).click()
        landed = page.get_by_role("region", name="Landed")
        expect(landed).to_contain_text("1 of 1 kept today: the bag is full")
        expect(page.get_by_role("button", name="Keep 38 cm")).to_be_disabled()
        page.get_by_role("button", name="Release 38 cm").click()
        self.expect_stored("landed", "landed")
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
        page.get_by_role("region", name="When nothing comes").locator("summary").click()
        expect(page.get_by_role("region", name="When nothing comes").get_by_role("listitem").first).to_be_visible()
        fished = Presentation.objects.get()
        self.assertIn("float at", str(fished))
        # What is kept is where the fly hung, not where the leader says it should have.
        took = Entry.objects.get(kind="take")
        self.assertLessEqual(took.depth_low_m, fished.action["set_depth_m"])
        self.assertAlmostEqual((took.depth_low_m + took.depth_high_m) / 2, fished.path_depth_m[-1], delta=0.02)
        self.assert_no_faults()

    def test_a_day_of_taps_as_fast_as_fingers_go_is_logged_as_it_was_and_all_of_it_can_be_taken_back(self) -> None:
        """Sixty taps by chance, some taken back: what the page then shows, and the store, are what a plain model says."""
        chance = random.Random(20261201)  # noqa: S311 - of taps
        page = self.open(PHONE)
        self.start_fishing(page)
        live: list[str] = []
        tapped = ""

        def still_out() -> bool:
            return next((one == "cast" for one in reversed(live) if one in ("cast", *ENDS)), False)

        for _ in range(60):
            can = ["cast", *(("nothing", "knock", "take") if still_out() else ()), *(("undo",) if live else ())]
            if live and live[-1] == "take":
                can.append("lost")
            kind = chance.choice(can)
            if kind == tapped:
                page.wait_for_timeout(500)  # the same button sooner is one tap of a cold finger
            tapped = kind if kind != "undo" else tapped
            if kind == "undo":
                live.pop()
                page.keyboard.press("u")
            else:
                if kind == "cast" and still_out():
                    live.append("nothing")
                live.append(kind)
                page.keyboard.press(KEY_OF[kind])
            expect(page.get_by_role("button", name=f"Undo {live[-1]}" if live else "Undo", exact=True)).to_be_visible()
            again = "Cast again" if still_out() else "Cast"
            expect(page.get_by_role("button", name=again, exact=True)).to_be_visible()
        expect(page.get_by_text("all sent")).to_be_visible()
        kept = Entry.objects.filter(undone_at=None).order_by("at").values_list("kind", flat=True)
        self.assertEqual(sorted(kept), sorted(live))
        while live:
            live.pop()
            page.keyboard.press("u")
            expect(page.get_by_role("button", name=f"Undo {live[-1]}" if live else "Undo", exact=True)).to_be_visible()
        expect(page.get_by_text("0 casts · 0 knocks · 0 takes · 0 landed")).to_be_visible()
        expect(page.get_by_text("all sent")).to_be_visible()
        self.assertFalse(Entry.objects.filter(undone_at=None).exists())
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
        expect(page.get_by_role("dialog", name="Fish").get_by_text("Fish: cast, or cast again")).to_be_visible()
        page.keyboard.press("Escape")
        for key, place in (("1", "/read"), ("2", "/rig"), ("4", "/log"), ("5", "/waters"), ("6", "/box")):
            page.keyboard.press(key)
            page.wait_for_url(f"**{place}")
        self.assert_no_faults()

    def test_a_day_is_a_date_at_the_water_and_what_is_read_later_is_kept_with_what_is_fished_then(self) -> None:
        # The device is set to a zone nine hours behind the water's; at the water it is close to midnight.
        page = self.open(PHONE, timezone_id="America/Los_Angeles")
        page.clock.set_fixed_time("2026-07-14T21:30:00Z")
        # As a page without clocks of its own sends: else the server would put July right.
        page.route("**/api/days/**", lambda way: way.continue_(headers=without_clocks(way.request)))
        self.sign_in(page)
        when = page.get_by_label("Day and time at the water")
        expect(when).to_have_value("2026-07-14T23:30")
        page.get_by_label("Surface temperature").fill("12")
        page.get_by_label("Wind", exact=True).fill("4")

        def fish() -> None:
            page.get_by_role("button", name="Choose the rig").click()
            page.get_by_role("button", name="Fish this").click()
            expect(page.get_by_role("button", name="Cast", exact=True)).to_be_visible()
            expect(page.get_by_text("all sent")).to_be_visible()

        fish()
        page.clock.set_fixed_time("2026-07-14T22:30:00Z")
        page.get_by_role("link", name="Rig", exact=True).click()
        page.get_by_role("button", name="Fish this").click()
        expect(page.get_by_text("all sent")).to_be_visible()
        self.wait_for(lambda: Presentation.objects.count() == 2)
        self.assertEqual([f"{day.at:%d %H:%M}" for day in Day.objects.order_by("at")], ["14 21:30", "14 22:30"])
        page.clock.set_fixed_time("2026-07-14T22:50:00Z")
        page.get_by_role("link", name="Read", exact=True).click()
        page.get_by_label("Surface temperature").fill("16.2")
        page.get_by_label("Wind", exact=True).fill("1")
        self.settle(page)
        fish()
        self.wait_for(lambda: Presentation.objects.count() == 3)
        self.assertEqual(Day.objects.count(), 2)
        before, after = (one.conditions for one in Presentation.objects.order_by("started_at")[1:])
        self.assertEqual((before["readings"][0]["water_c"], after["readings"][0]["water_c"]), (12.0, 16.2))
        self.assertEqual((before["wind_speed_mps"], after["wind_speed_mps"]), (4.0, 1.0))
        page.get_by_role("link", name="Look back").click()
        page.get_by_role("link", name=re.compile("15 July.*Brennholt")).click()
        expect(page.get_by_text("from 00:50")).to_be_visible()
        expect(page.get_by_text(re.compile("16.2 °C at the top"))).to_be_visible()
        self.assert_no_faults()
