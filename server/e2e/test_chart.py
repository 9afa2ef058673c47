"""The chart and the instruments in a browser: drawn, asked, filled from files and from live lines."""

from __future__ import annotations

import json
import re

from playwright.sync_api import Page, expect

from demo.lakes import BRENNHOLT_LAKE
from demo.season import chart_lake
from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE
from instruments.listener import listeners
from standins.servers import StreamServer, sounder_stream, station_stream
from waters.models import Mark, Survey, Water


class ChartTests(AnglerTestCase):
    def open_chart(self, page: Page) -> None:
        self.sign_in(page)
        self.go_to(page, "Waters")
        page.get_by_role("link", name="Brennholt Reservoir", exact=True).click()

    def test_a_shore_is_drawn_filled_with_soundings_cut_and_a_place_kept_as_a_mark(self) -> None:
        page = self.open()
        self.open_chart(page)
        expect(page.get_by_text("No outline yet")).to_be_visible()
        page.get_by_role("radio", name="Draws shore").click()
        sheet = page.get_by_role("application")
        for x, y in ((200, 120), (620, 120), (620, 480), (200, 480)):
            sheet.click(position={"x": x, "y": y})
        page.get_by_role("button", name="Close the outline").click()
        expect(page.get_by_text("Choose a place to see what it is like.")).to_be_visible()
        self.assertTrue(Water.objects.filter(outline__isnull=False).exists())
        # A bottom that falls to the east, over all the drawn lake.
        rows = ["lon,lat,depth_m"]
        for i in range(30):
            for j in range(30):
                rows.append(f"{9.388 + 0.0008 * i:.5f},{61.194 + 0.0004 * j:.5f},{1 + 0.3 * i:.1f}")
        self.choose_file(page, "soundings.csv", "\n".join(rows))
        expect(page.get_by_text("900 soundings.")).to_be_visible()
        page.get_by_role("radio", name="Cuts across").click()
        sheet.click(position={"x": 260, "y": 300})
        sheet.click(position={"x": 560, "y": 300})
        expect(page.get_by_role("img", name=re.compile("Depth along the line"))).to_be_visible()
        page.get_by_role("radio", name="Stands there").click()
        sheet.click(position={"x": 400, "y": 300})
        place = page.get_by_role("region", name="This place")
        expect(place).to_contain_text("of water upwind")
        page.get_by_label("Name of a new mark here").fill("Middle ground")
        page.get_by_role("button", name="Keep as a mark").click()
        expect(page.get_by_role("region", name="Where to start")).to_contain_text("Middle ground")
        self.assertTrue(Mark.objects.filter(name="Middle ground").exists())
        expect(page.get_by_role("button", name="Remove the mark")).to_be_visible()
        page.get_by_role("button", name="Read from here").click()
        expect(page.get_by_text(re.compile("Where you stand"))).to_be_visible()
        self.assert_no_faults()

    def choose_file(self, page: Page, name: str, text: str) -> None:
        page.get_by_label("Bring in a file").set_input_files({"name": name, "mimeType": "text/plain", "buffer": text.encode()})

    def test_bad_files_are_answered_and_change_nothing(self) -> None:
        chart_lake(self.water, BRENNHOLT_LAKE)
        page = self.open()
        self.open_chart(page)
        outline = BRENNHOLT_LAKE.geometry()
        swapped = {"type": "Polygon", "coordinates": [[[y, x] for x, y in outline["coordinates"][0]]]}
        for name, text, words in (
            ("a.geojson", json.dumps(swapped), "look swapped"),
            ("b.csv", "x,y,depth\n500000,6785000,4\n", "Give the EPSG code"),
            ("c.gpx", "<gpx>", "not GPX"),
        ):
            self.choose_file(page, name, text)
            expect(page.get_by_role("alert").filter(has_text=words)).to_be_visible()
        expect(page.get_by_role("region", name="Where to start")).to_contain_text("North arm lip")
        self.assertEqual(Survey.objects.count(), 1)
        self.assert_no_faults()

    def test_with_the_keys_alone_a_place_is_aimed_at_and_chosen_on_a_phone_too(self) -> None:
        chart_lake(self.water, BRENNHOLT_LAKE)
        page = self.open(PHONE)
        self.open_chart(page)
        sheet = page.get_by_role("application")
        sheet.focus()
        for key in ("ArrowDown", "ArrowDown", "+", "Enter"):
            page.keyboard.press(key)
        expect(page.get_by_role("region", name="This place")).to_be_visible()
        page.get_by_text("If the wind turns").click()
        expect(page.get_by_text(re.compile("^from NW: "))).to_be_visible()
        page.get_by_label("Wind from").select_option(label="N")
        expect(page.get_by_text(re.compile("^from NE: "))).to_be_visible()
        self.assert_no_faults()

    def test_two_fingers_zoom_the_map_and_one_still_picks_a_place(self) -> None:
        chart_lake(self.water, BRENNHOLT_LAKE)
        page = self.open(PHONE, has_touch=True)
        self.open_chart(page)
        sheet = page.get_by_role("application")
        box = sheet.bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        hand = page.context.new_cdp_session(page)

        def touch(kind: str, *points: tuple[float, float]) -> None:
            fingers = [{"x": left, "y": top, "id": i} for i, (left, top) in enumerate(points)]
            hand.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": fingers})

        bar = sheet.locator("svg").get_by_text(re.compile(r"^\d+ m$")).last
        before = bar.text_content() or ""
        touch("touchStart", (x - 20, y), (x + 20, y))
        for apart in (40, 70, 110):
            touch("touchMove", (x - apart, y), (x + apart, y))
        touch("touchEnd", (x - 110, y))
        touch("touchEnd")
        expect(bar).not_to_have_text(before)
        self.assertLess(int((bar.text_content() or "").split()[0]) * 3, int(before.split()[0]) * 1.01)
        expect(page.get_by_role("region", name="This place")).to_have_count(0)
        page.touchscreen.tap(x, y)
        expect(page.get_by_role("region", name="This place")).to_be_visible()
        self.assert_no_faults()


class InstrumentTests(AnglerTestCase):
    def tearDown(self) -> None:
        listeners.stop_all()
        super().tearDown()

    def test_live_values_come_go_and_come_again_and_are_read_with(self) -> None:
        sounder = StreamServer(0, sounder_stream("brennholt"), every_s=0.1)
        station = StreamServer(0, station_stream("brennholt"), every_s=0.1)
        for server in (sounder, station):
            server.start()
        allowed = [f"127.0.0.1:{server.port}" for server in (sounder, station)]
        self.enterContext(self.settings(INSTRUMENTS=allowed))
        page = self.open()
        self.sign_in(page)
        page.get_by_role("link", name="Instruments").click()
        for name, server in (("Boat sounder", sounder), ("Bank station", station)):
            page.get_by_label("Name").fill(name)
            page.get_by_label("Port").fill(str(server.port))
            page.get_by_role("button", name="Add and listen").click()
            expect(page.get_by_role("listitem", name=name)).to_contain_text("Connected")
        boat = page.get_by_role("listitem", name="Boat sounder")
        expect(boat).to_contain_text("Position")
        sounder.stop()
        expect(boat).to_contain_text("Lost; trying again")
        again = StreamServer(sounder.port, sounder_stream("brennholt"), every_s=0.1)
        again.start()
        expect(boat).to_contain_text("the line was lost 1 times and taken up again")
        expect(boat).to_contain_text("Connected")
        boat.get_by_role("button", name="Read with these").click()
        expect(page.get_by_label("Surface temperature")).to_have_value(re.compile(r"^1[67]"))
        page.get_by_role("link", name="Instruments").click()
        page.get_by_label("Name").fill("Far away")
        page.get_by_label("Address").fill("10.0.0.9")
        page.get_by_role("button", name="Add and listen").click()
        expect(page.get_by_role("alert")).to_contain_text("listens only where its keeper allows it: 127.0.0.1")
        for server in (again, station):
            server.stop()
