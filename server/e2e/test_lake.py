"""The water's year in a browser: drawn, asked by the day, told of by a station, and behind Read."""

from __future__ import annotations

import re

from lake.models import WeatherDay
from playwright.sync_api import expect

from demo.weather import keep_weather
from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE


class LakeTests(AnglerTestCase):
    def test_a_water_with_weather_is_read_before_anything_is_typed_and_shows_its_year(self) -> None:
        keep_weather(self.water)
        page = self.open(PHONE)
        self.sign_in(page)
        expect(page.get_by_text(re.compile("worked out from its weather, never read yet"))).to_be_visible()
        page.get_by_role("link", name="The water’s year").click()
        expect(page.get_by_role("heading", name=re.compile("Brennholt Reservoir: the water’s year"))).to_be_visible()
        expect(page.get_by_role("img", name=re.compile("Temperature by depth and date"))).to_be_visible()
        day = page.get_by_role("slider", name="Day")
        year = page.get_by_role("region", name="The year of Brennholt Reservoir")
        before = day.get_attribute("aria-valuetext") or ""
        expect(year).to_contain_text(before)
        day.press("End")
        expect(year).to_contain_text(", forecast")
        page.get_by_text("As a table, week by week").click()
        expect(page.get_by_role("row", name=re.compile(r"\(forecast\)")).first).to_be_visible()
        self.assert_no_faults()

    def test_a_stations_log_is_taken_in_and_a_bad_one_answered(self) -> None:
        page = self.open()
        self.sign_in(page, "/waters")
        page.get_by_role("link", name=re.compile("The water’s year")).first.click()
        expect(page.get_by_text("No weather is known over this water yet.")).to_be_visible()
        door = page.get_by_label("Take in a station’s log")
        door.set_input_files({"name": "bad.csv", "mimeType": "text/csv", "buffer": b"time,air\n2026-07-10,12\n"})
        expect(page.get_by_role("alert")).to_contain_text("does not say its unit")
        good = "time,air_c\n2026-07-10T10:00Z,12\n2026-07-10T11:00Z,never\n2026-07-10T11:00Z,99\n"
        door.set_input_files({"name": "good.csv", "mimeType": "text/csv", "buffer": good.encode()})
        status = page.get_by_role("status").filter(has_text="day of weather taken in")
        expect(status).to_contain_text("left out")
        self.assertEqual(WeatherDay.objects.get(source="station").hours["air_c"][10], 12.0)
