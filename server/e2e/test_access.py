"""Every view is open to every angler: the checker finds nothing, and nothing is wider than the screen."""

from __future__ import annotations

import json
from typing import Any

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from demo.lakes import BRENNHOLT_LAKE
from demo.season import chart_lake
from demo.weather import keep_weather
from e2e.angler import AnglerTestCase
from e2e.chromium import DESK, PHONE

EVERY_RULE = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]
RULES_OF_COLOUR = {"type": "rule", "values": ["color-contrast", "link-in-text-block"]}  # a theme changes nothing else


class AccessTests(AnglerTestCase):
    """Every view, in both themes: no violation that the checker knows, and nothing wider than the screen."""

    def check(self, page: Page, where: str, rules: Any = EVERY_RULE) -> None:
        # What lies half under the bar at the thumb is scrolled out from it: its size is measured without the bar.
        page.evaluate("document.querySelectorAll('nav.sticky').forEach((bar) => { bar.style.position = 'static' })")
        found: Any = Axe().run(page, options={"runOnly": rules})
        faults = [(v["id"], v["nodes"][0]["html"][:160]) for v in found.response["violations"]]
        self.assertEqual(faults, [], where)
        wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
        self.assertEqual(wide, 0, f"{where} is wider than the screen")

    def go(self, page: Page, name: str) -> None:
        if name.startswith("/"):
            # Within the page, so that its theme stays.
            page.evaluate("to => { history.pushState({}, '', to); dispatchEvent(new PopStateEvent('popstate')) }", name)
        elif name == "Card":
            page.get_by_role("link", name="day card").click()
        elif name == "Chart":
            self.go_to(page, "Waters")
            page.get_by_role("link", name="Brennholt Reservoir", exact=True).click()
        else:
            self.go_to(page, name)

    def test_every_view_is_accessible_in_both_themes_and_fits_its_screen(self) -> None:
        chart_lake(self.water, BRENNHOLT_LAKE)
        keep_weather(self.water)
        year = f"/waters/{self.water.pk}/year"
        fishing, told = self.practised()
        door = self.open()
        door.goto("/")
        expect(door.get_by_label("Name")).to_be_visible()
        self.check(door, "the door")
        for size in (DESK, PHONE):
            page = self.open(size)
            self.start_fishing(page)
            for theme, rules in (("light", EVERY_RULE), ("dusk", RULES_OF_COLOUR)):
                page.evaluate(f"document.documentElement.dataset.theme = {json.dumps(theme)}")
                for path, seen in (
                    ("Fish", "all sent"), ("Read", "Most likely feeding"), ("Rig", "The best of each method"),
                    ("Card", "Take."),
                    ("Look back", "of the fly in the water"), ("Waters", "Add a water"), ("Box", "Flies"),
                    ("Tank", "two rigs in the same water"), ("Chart", "Where to start"), ("Instruments", "Add one"),
                    ("/you", "For scripts"), ("/you/log", "Take it with you"),
                    (year, "too little oxygen below"),
                    ("/practice", "fish a hidden lake"), (fishing, "Ways to fish"), (told, "Where they were"),
                ):  # fmt: skip
                    self.go(page, path)
                    expect(page.get_by_text(seen).first).to_be_visible()
                    self.settle(page)
                    self.check(page, f"{path}, {theme}, {size[0]} px", rules)
        self.assert_no_faults()

    def test_on_the_water_every_button_is_big_enough_for_a_cold_thumb(self) -> None:
        page = self.open(PHONE, has_touch=True)
        self.start_fishing(page)
        page.get_by_role("button", name="Cast", exact=True).click()
        for name in ("Cast again", "Nothing", "Knock", "Take", "Lost", "Landed", "Undo cast"):
            box = page.get_by_role("button", name=name, exact=True).bounding_box()
            assert box is not None
            self.assertGreaterEqual(box["height"], 56, name)
            self.assertGreaterEqual(box["width"], 56, name)
            # The lower half is where one hand reaches.
            self.assertGreater(box["y"], PHONE[1] * 0.42, name)
        self.assert_no_faults()

    def test_text_stands_out_seven_to_one_in_both_themes(self) -> None:
        # WCAG 2.2, the enhanced contrast of success criterion 1.4.6, worked from its own formula.
        page = self.open()
        page.goto("/")
        for theme in ("light", "dusk"):
            page.evaluate(f"document.documentElement.dataset.theme = {json.dumps(theme)}")
            inks = page.evaluate(
                """() => {
                    const style = getComputedStyle(document.documentElement)
                    const read = (name) => [name, style.getPropertyValue('--' + name).trim()]
                    return Object.fromEntries(['paper', 'sheet', 'ink', 'soft'].map(read))
                }"""
            )
            for text in ("ink", "soft"):
                for ground in ("paper", "sheet"):
                    self.assertGreaterEqual(contrast(inks[text], inks[ground]), 7.0, f"{text} on {ground}, {theme}")

    def test_the_apis_own_page_opens_under_the_same_policy(self) -> None:
        page = self.open()
        page.goto("/api/docs")
        expect(page.get_by_text("/api/pictures").first).to_be_visible()
        self.assert_no_faults()

    def test_long_names_do_not_break_a_screen(self) -> None:
        long = "A very long name of a water that goes on and on, as names of bays and arms and inlets do"[:80]
        water = self.angler.waters.get(name="Brennholt Reservoir")
        water.name = long
        water.save()
        for size in (DESK, PHONE):
            page = self.open(size)
            self.sign_in(page)
            self.unfold(page)
            page.get_by_label("Water", exact=True).select_option(label=long)
            expect(page.get_by_text("Most likely feeding")).to_be_visible()
            for path, seen in (("/read", "Most likely feeding"), ("/waters", "Add a water")):
                page.goto(path)
                expect(page.get_by_text(seen).first).to_be_visible()
                self.settle(page)
                wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
                self.assertEqual(wide, 0, f"{path} at {size[0]} px")
        self.assert_no_faults()

    def test_motion_is_left_out_for_those_who_asked(self) -> None:
        page = self.open(reduced_motion="reduce")
        self.sign_in(page)
        self.read_water(page)
        moving = page.evaluate(
            "[...document.querySelectorAll('*')].filter((e) => getComputedStyle(e).animationName !== 'none').length"
        )
        self.assertEqual(moving, 0)


def contrast(one: str, other: str) -> float:
    """Return the WCAG contrast of two colours given as #rrggbb."""

    def luminance(colour: str) -> float:
        channels = [int(colour[i : i + 2], 16) / 255.0 for i in (1, 3, 5)]
        linear = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in channels]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    light, dark = sorted((luminance(one), luminance(other)), reverse=True)
    return (light + 0.05) / (dark + 0.05)
