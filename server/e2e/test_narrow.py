"""Small screens: nothing of a drawing cut or covered, wide letters, narrow pages, forced colours, the thumb's bar."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE

HEIGHT = 844
# Words of a drawing, as they are drawn: each with its box, cut to where it can be seen.
WORDS = """
() => [...document.querySelectorAll('main svg')].filter((svg) => !svg.closest('[data-small]')).flatMap((svg, k) => {
  const sheet = svg.getBoundingClientRect()
  return [...svg.querySelectorAll('text')].filter((t) => t.textContent.trim()).map((t) => {
    const { left, right, top, bottom } = t.getBoundingClientRect()
    const [inside, tall] = [{ left: sheet.left, right: sheet.right }, bottom - top]
    return {
      svg: k, said: t.textContent, left, right,
      top: top + 0.22 * tall, bottom: bottom - 0.22 * tall,
      cut: left < inside.left - 1 || right > inside.right + 1 || top < sheet.top - 2 || bottom > sheet.bottom + 2,
    }
  })
})
"""


class NarrowTests(AnglerTestCase):
    def check_words(self, page: Page, where: str) -> None:
        self.settle(page)
        page.wait_for_function("() => document.documentElement.scrollWidth <= document.documentElement.clientWidth")
        words = page.evaluate(WORDS)
        self.assertGreater(len(words), 5, where)
        self.assertEqual([w["said"] for w in words if w["cut"]], [], f"cut, {where}")
        covered = [
            (a["said"], b["said"])
            for i, a in enumerate(words)
            for b in words[i + 1 :]
            if a["svg"] == b["svg"]
            and min(a["right"], b["right"]) - max(a["left"], b["left"]) > 1
            and min(a["bottom"], b["bottom"]) - max(a["top"], b["top"]) > 1
        ]
        self.assertEqual(covered, [], f"covered, {where}")

    def choose_units(self, page: Page, *names: str) -> None:
        self.open_units(page)
        for name in names:
            page.get_by_role("radio", name=name, exact=True).click()
        page.keyboard.press("Escape")
        page.keyboard.press("Escape")
        expect(page.get_by_role("radio", name=names[0], exact=True)).to_have_count(0)

    def test_no_word_of_the_column_is_covered_or_cut_on_any_phone_in_metres_and_in_feet(self) -> None:
        page = self.open(PHONE)
        self.sign_in(page)
        self.read_water(page)
        for units in (("m", "°C"), ("ft", "°F")):
            self.choose_units(page, *units)
            for width in (320, 360, 390, 430):
                page.set_viewport_size({"width": width, "height": HEIGHT})
                page.goto("/read")
                expect(page.get_by_text("Most likely feeding")).to_be_visible()
                self.check_words(page, f"Read at {width} px, {units[0]}")
                page.goto("/rig")
                expect(page.get_by_role("button", name="Fish this")).to_be_visible()
                self.check_words(page, f"Rig at {width} px, {units[0]}")
        self.assert_no_faults()

    def test_three_flies_at_one_depth_are_named_apart(self) -> None:
        page = self.open(PHONE)
        self.sign_in(page)
        self.read_water(page)
        self.rig_by_line(page)
        for n in (1, 2):
            page.get_by_role("button", name=re.compile("^Add a fly")).click()
            expect(page.get_by_label(f"Dropper {n}", exact=True)).to_be_visible()
        scrub = page.get_by_role("slider", name=re.compile("Moment"))
        for units in (("m", "°C"), ("ft", "°F")):
            self.choose_units(page, *units)
            for width in (360, 390, 430):
                page.set_viewport_size({"width": width, "height": HEIGHT})
                scrub.focus()
                # All of them lie on the surface as the line lands, and hang below the rod at the end.
                for key in ("Home", "End"):
                    page.keyboard.press(key)
                    self.check_words(page, f"three flies, {key}, {width} px, {units[0]}")
        self.assert_no_faults()

    def test_letters_twice_as_large_and_a_page_of_320_pixels_lose_nothing(self) -> None:
        page = self.open(PHONE)
        self.sign_in(page)
        self.read_water(page)
        fishing, told = self.practised()
        for path, seen in (
            ("/read", "Most likely feeding"), ("/rig", "The best of each method"), ("/waters", "Add a water"),
            ("/box", "Flies"), ("/log", "No days yet"), ("/tank", "two rigs in the same water"), ("/instruments", "Add one"),
            ("/you", "For scripts"), ("/you/log", "Take it with you"),
            ("/practice", "fish a hidden lake"), (fishing, "Ways to fish"), (told, "Where they were"),
        ):  # fmt: skip
            page.goto(path)
            expect(page.get_by_text(seen).first).to_be_attached()
            self.settle(page)
            for width, size in ((320, "100%"), (390, "200%")):
                page.set_viewport_size({"width": width, "height": HEIGHT})
                page.evaluate("size => { document.documentElement.style.fontSize = size }", size)
                with self.subTest(path, letters=size):  # once the drawings have been drawn anew
                    page.wait_for_function("() => document.documentElement.scrollWidth <= document.documentElement.clientWidth")
        self.assert_no_faults()

    def test_the_steps_lie_under_the_thumb_and_stay_there(self) -> None:
        page = self.open(PHONE, has_touch=True)
        self.sign_in(page)
        bar = page.get_by_role("navigation", name="Steps")
        for _ in range(2):
            box = bar.bounding_box()
            assert box is not None
            self.assertGreaterEqual(box["height"], 56)
            self.assertAlmostEqual(box["y"] + box["height"], PHONE[1], delta=1)
            page.mouse.wheel(0, 900)
        for name in ("Rig", "Fish", "Look back", "Read"):
            bar.get_by_role("link", name=name).tap()
            expect(bar.get_by_role("link", name=name)).to_have_attribute("aria-current", "page")
        self.assert_no_faults()

    def test_in_forced_colours_what_is_chosen_is_still_told_from_what_is_not(self) -> None:
        page = self.open(PHONE, forced_colors="active")
        self.sign_in(page)
        self.read_water(page)
        on = page.get_by_role("radio", name="Some").evaluate("e => getComputedStyle(e).backgroundColor")
        off = page.get_by_role("radio", name="Clear").evaluate("e => getComputedStyle(e).backgroundColor")
        self.assertNotEqual(on, off)
        self.assert_no_faults()
