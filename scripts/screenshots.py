"""Draw docs/screenshots: one picture of each main view, from the demo season."""

from __future__ import annotations

import argparse
import re
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path

from e2e.chromium import CHROMIUM, DESK, FLAGS, PHONE
from playwright.sync_api import Browser, FilePayload, Page, sync_playwright
from serving import served

ROOT = Path(__file__).resolve().parents[1]

OUT = ROOT / "docs" / "screenshots"
# A fixed day of a northern summer, for the pages and for the server: the demo's season is made for it.
NOW = datetime(2026, 7, 13, 9, 35, tzinfo=UTC)


def read(page: Page) -> None:
    page.get_by_role("link", name="Read", exact=True).click()
    page.get_by_text("Most likely feeding").wait_for()
    page.evaluate("window.scrollTo(0, 0)")
    page.get_by_text("worked out from its weather").wait_for()


def day_strip(page: Page) -> None:
    read(page)
    page.get_by_role("radio", name="Signs").click()
    page.get_by_role("radio", name="The day").click()
    page.get_by_text("Sun from").wait_for()


def rig(page: Page) -> None:
    read(page)
    page.get_by_role("button", name="Choose the rig").click()
    page.get_by_text("The best of each method").wait_for()
    page.get_by_role("region", name="How to tie it").wait_for()
    page.get_by_text("Best now").wait_for()
    page.wait_for_timeout(600)
    page.evaluate("window.scrollTo(0, 0)")


def dials(page: Page) -> None:
    rig(page)
    page.get_by_role("radio", name="Line, with dials").click()
    page.get_by_text("Sum and truth").wait_for()


def card(page: Page) -> None:
    rig(page)
    page.get_by_role("link", name="day card").click()
    page.get_by_text("When nothing comes").wait_for()


def fish(page: Page) -> None:
    with page.expect_response("**/api/searches"):
        rig(page)
    page.get_by_role("button", name="Fish this").click()
    move = page.get_by_role("region", name="Next")
    move.get_by_text(re.compile("an hour expected|takes more")).wait_for()
    for _ in range(4):
        page.get_by_role("button", name="Cast", exact=True).click()
        page.get_by_role("button", name="Nothing", exact=True).click()
        page.get_by_role("button", name="Undo nothing").wait_for()
    move.get_by_text(re.compile("4 blank casts")).wait_for()
    page.get_by_role("button", name="Cast", exact=True).click()
    page.get_by_role("button", name="Cast again").wait_for()
    page.clock.set_fixed_time(NOW + timedelta(seconds=70))


def log(page: Page) -> None:
    page.get_by_role("link", name="Look back").click()
    page.get_by_text("of the fly in the water").wait_for()


def day(page: Page) -> None:
    log(page)
    page.get_by_role("link", name=re.compile("Brennholt.*landed")).first.click()
    page.get_by_text("Where they feed").wait_for()


def waters(page: Page) -> None:
    page.get_by_role("link", name="Waters", exact=True).click()
    page.get_by_role("button", name="Change Brennholt Reservoir").click()


def chart(page: Page) -> None:
    page.get_by_role("link", name="Waters", exact=True).click()
    page.get_by_text("Add a water").wait_for()  # the page before may name it too
    page.get_by_role("link", name="Brennholt Reservoir", exact=True).click()
    page.get_by_role("button", name="North arm lip").click()
    page.get_by_text("If the wind turns").wait_for()


def water_year(page: Page) -> None:
    page.get_by_role("link", name="Waters", exact=True).click()
    page.get_by_role("link", name="The water’s year of Brennholt Reservoir").click()
    page.get_by_role("img", name="Temperature by depth and date").wait_for()


def instruments(page: Page) -> None:
    page.get_by_role("link", name="Instruments").click()
    for name in ("sounder and thermometer", "weather station"):
        page.get_by_role("button", name=f"Add the simulated {name}").click()
    page.get_by_text("Wind", exact=True).wait_for()
    page.get_by_text("Position", exact=True).wait_for()


def tank(page: Page) -> None:
    page.get_by_role("link", name="Tank").click()
    page.get_by_role("group", name="Rig B").get_by_role("radio", name="Indicator").click()
    page.get_by_text("short of its set depth").wait_for()


def practice(page: Page) -> None:
    page.goto("/practice")
    page.get_by_label("A friend's code").fill("XK9ZWD")
    page.get_by_role("button", name="Same day as a friend").click()
    page.get_by_role("button", name=re.compile("^Lower a thermometer")).click()
    page.get_by_text("You lowered a thermometer").wait_for()
    said = page.get_by_role("status")
    for number in range(1, 13):
        page.get_by_role("button", name=re.compile("^Cast( again)?$")).click()
        said.get_by_text(re.compile(f"^Cast {number}:")).wait_for()
    page.get_by_role("button", name=re.compile("^Full sinker")).click()
    for number in range(13, 22):
        page.get_by_role("button", name="Cast again").click()
        said.get_by_text(re.compile(f"^Cast {number}:")).wait_for()
    page.get_by_role("button", name="End the day and see").click()
    page.get_by_role("heading", name="Where they were").wait_for(timeout=60_000)


def box(page: Page) -> None:
    page.get_by_role("link", name="Box", exact=True).click()
    page.get_by_role("heading", name="Flies").wait_for()


def your_log(page: Page) -> None:
    page.get_by_role("button", name="Units and you").click()
    page.get_by_role("link", name="Your log, out and in").click()
    with page.expect_download() as saved:
        page.get_by_role("link", name="Save everything").click()
    archive = FilePayload(name="log.zip", mimeType="application/zip", buffer=Path(saved.value.path()).read_bytes())
    page.get_by_label("Archive").set_input_files([archive])
    page.get_by_role("table", name="What the archive holds").wait_for()
    other = FilePayload(name="old.csv", mimeType="text/csv", buffer=OLD_LOG.encode())
    page.get_by_label("Log as CSV").set_input_files([other])
    page.get_by_text("Brings").wait_for()
    page.evaluate("window.scrollTo(0, 0)")


OLD_LOG = """When,Lake,Kind of fish,Size (in),Fly used
14/07/2023,Brennholt Reservoir,rainbow,16,olive nymph
15/07/2023,Brennholt Reservoir,brown,14,black pupa
"""
WITH_HINT = ("read-phone",)
VIEWS: tuple[tuple[str, tuple[int, int], Callable[[Page], None]], ...] = (
    ("read", DESK, read), ("read-phone", PHONE, read), ("day-strip", DESK, day_strip),
    ("rig", DESK, rig), ("rig-phone", PHONE, rig), ("practice", DESK, practice),
    ("day-card", DESK, card),
    ("look-back", DESK, log), ("day", DESK, day), ("waters", DESK, waters), ("chart", DESK, chart),
    ("water-year", DESK, water_year), ("instruments", DESK, instruments), ("box", DESK, box), ("tank", DESK, tank),
    ("fish", DESK, fish), ("fish-phone", PHONE, fish), ("your-log", DESK, your_log),
)  # fmt: skip


def draw(browser: Browser, url: str, name: str, size: tuple[int, int], go: Callable[[Page], None]) -> None:
    context = browser.new_context(viewport={"width": size[0], "height": size[1]}, base_url=url, locale="en-GB")
    context.set_default_timeout(60_000)
    page = context.new_page()
    page.clock.set_fixed_time(NOW)
    page.goto("/")
    page.get_by_role("button", name="Enter as the demo angler").click()
    page.get_by_text("Most likely feeding").wait_for()
    if name not in WITH_HINT:
        page.get_by_role("button", name="Put this hint away").click()
    go(page)
    page.wait_for_timeout(700)
    page.screenshot(path=OUT / f"{name}.png")
    context.close()
    print(f"docs/screenshots/{name}.png")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("names", nargs="*", help="draw these views alone")
    names = parser.parse_args().names
    OUT.mkdir(parents=True, exist_ok=True)
    from standins.servers import StreamServer, sounder_stream, station_stream

    for port, stream in ((10110, sounder_stream("brennholt")), (10111, station_stream("brennholt"))):
        StreamServer(port, stream).start()
    with served(NOW) as app, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        context = browser.new_context(viewport={"width": DESK[0], "height": DESK[1]}, base_url=app.url)
        page = context.new_page()
        page.goto("/")
        page.get_by_role("button", name="Enter as the demo angler").wait_for()
        page.screenshot(path=OUT / "door.png")
        context.close()
        for name, size, go in VIEWS:
            if not names or name in names:
                draw(browser, app.url, name, size, go)
        browser.close()


if __name__ == "__main__":
    main()
