"""A device with a wrong clock, without room, or with an old build open: nothing is lost, and what is wrong is said."""

from __future__ import annotations

import re
from datetime import timedelta

from django.utils import timezone
from playwright.sync_api import Page, expect

from days.models import Day, Entry, Presentation
from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE
from e2e.test_no_signal import rows_of

# A wall clock that can be set; the page's own runs on.
SETTABLE = """(() => {
  const Real = Date
  let off = Number(localStorage.getItem('off') ?? 0)
  window.setClock = ms => { off = ms; localStorage.setItem('off', String(ms)) }
  window.Date = class extends Real {
    constructor(...said) { if (said.length) super(...said); else super(Real.now() + off) }
    static now() { return Real.now() + off }
  }
})()"""
DENIED = "IDBFactory.prototype.open = () => { throw new DOMException('denied', 'SecurityError') }"
# As a browser answers every write once the disk is full; a limit set over the debugging port is not heeded in time.
FULL = """() => {
  for (const write of ['add', 'put'])
    IDBObjectStore.prototype[write] = () => { throw new DOMException('The disk is full', 'QuotaExceededError') }
}"""
MINUTE_MS = 60_000


class WrongClockTests(AnglerTestCase):
    def fishing_by_a_settable_clock(self, off_ms: int) -> Page:
        page = self.open(PHONE)
        page.add_init_script(SETTABLE)
        page.goto("/")
        page.evaluate(f"setClock({off_ms})")
        self.start_fishing(page)
        return page

    def tap(self, page: Page, *kinds: str) -> None:
        for kind in kinds:
            page.get_by_role("button", name=kind, exact=True).click()
            expect(page.get_by_role("button", name=f"Undo {kind.lower()}")).to_be_visible()

    def test_a_day_logged_ten_minutes_ahead_is_stored_whole_with_its_times_put_right(self) -> None:
        page = self.fishing_by_a_settable_clock(10 * MINUTE_MS)
        self.contexts[-1].set_offline(True)
        self.tap(page, "Cast", "Knock", "Take")
        expect(page.get_by_text(re.compile("3 kept here"))).to_be_visible()
        self.contexts[-1].set_offline(False)
        expect(page.get_by_text("all sent")).to_be_visible()
        expect(page.get_by_text(re.compile("clock is 10 min ahead. The log.s times are put right."))).to_be_visible()
        self.assertEqual([e.kind for e in Entry.objects.order_by("at")], ["cast", "knock", "take"])
        for row, at in ((Day.objects.get(), "at"), (Presentation.objects.get(), "started_at"), (Entry.objects.first(), "at")):
            assert row is not None
            assert row.device_at is not None
            right = getattr(row, at)
            self.assertLessEqual(right, timezone.now())
            self.assertLess(abs(row.device_at - right - timedelta(minutes=10)), timedelta(seconds=5))

    def test_a_clock_set_back_in_mid_cast_times_the_take_all_the_same(self) -> None:
        page = self.fishing_by_a_settable_clock(0)
        self.tap(page, "Cast")
        page.evaluate(f"setClock({-10 * MINUTE_MS})")
        self.tap(page, "Take")
        expect(page.get_by_text("all sent")).to_be_visible()
        take = Entry.objects.get(kind="take")
        assert take.cast_elapsed_s is not None
        self.assertTrue(0.0 < take.cast_elapsed_s < 120.0)
        self.assertGreater(take.at, Entry.objects.get(kind="cast").at)


class NoRoomTests(AnglerTestCase):
    def cast_and_take(self, page: Page) -> None:
        for kind in ("Cast", "Take"):
            page.get_by_role("button", name=kind, exact=True).click()
            expect(page.get_by_role("button", name=f"Undo {kind.lower()}")).to_be_visible()

    def test_a_browser_that_denies_its_store_fishes_on_and_says_that_it_keeps_nothing(self) -> None:
        page = self.open(PHONE)
        page.add_init_script(DENIED)
        self.start_fishing(page)
        expect(page.get_by_role("alert")).to_contain_text("This device keeps nothing")
        self.cast_and_take(page)
        expect(page.get_by_text("all sent")).to_be_visible()
        self.assertEqual(Entry.objects.count(), 2)
        page.reload()
        expect(page.get_by_text("Nothing tied on yet")).to_be_visible()

    def test_a_full_device_sends_at_once_and_holds_in_the_page_what_it_cannot_send(self) -> None:
        page = self.open(PHONE)
        self.start_fishing(page)
        expect(page.get_by_text("all sent")).to_be_visible()
        page.evaluate(FULL)
        self.cast_and_take(page)
        expect(page.get_by_role("alert")).to_contain_text("This device keeps nothing")
        expect(page.get_by_text("all sent")).to_be_visible()
        self.assertEqual(Entry.objects.count(), 2)
        self.contexts[-1].set_offline(True)
        self.cast_and_take(page)
        expect(page.get_by_text(re.compile("2 kept in this page"))).to_be_visible()
        self.assertEqual(page.evaluate(rows_of("outbox")), 0)
        self.contexts[-1].set_offline(False)
        expect(page.get_by_text("all sent")).to_be_visible()
        self.assertEqual(Entry.objects.count(), 4)


class OldBuildTests(AnglerTestCase):
    def test_a_screen_that_a_newer_build_no_longer_has_offers_a_reload_and_loses_nothing(self) -> None:
        page = self.open(PHONE)
        self.start_fishing(page)
        page.get_by_role("button", name="Cast", exact=True).click()
        expect(page.get_by_role("button", name="Cast again")).to_be_visible()
        page.route("**/assets/LookBackPage-*.js", lambda route: route.fulfill(status=404))
        page.get_by_role("link", name="Look back").click()
        expect(page.get_by_role("alert")).to_contain_text("A newer version is here")
        page.unroute_all()
        page.get_by_role("button", name="Reload").click()
        expect(page.get_by_role("heading", name="1 day")).to_be_visible()
        page.get_by_role("link", name="Fish").click()
        expect(page.get_by_role("button", name="Cast again")).to_be_visible()
