"""One device, more than one angler: what waits is its owner's, and is sent as his or not at all."""

from __future__ import annotations

from django.contrib.sessions.models import Session
from playwright.sync_api import Page, expect

from accounts.services import sign_up
from days.models import Entry
from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE
from e2e.test_no_signal import rows_of
from project.tests.people import PASSWORD


class SharedDeviceTests(AnglerTestCase):
    def fishing_without_a_way_out(self) -> Page:
        """Return a page that fishes and whose entries stay on the device."""
        page = self.open(PHONE)
        self.start_fishing(page)
        expect(page.get_by_text("all sent")).to_be_visible()
        page.context.route("**/api/days/*/entries/*", lambda route: route.abort())
        page.get_by_role("button", name="Cast", exact=True).click()
        page.get_by_role("button", name="Knock", exact=True).click()
        expect(page.get_by_text("2 kept here, sent when there is a connection")).to_be_visible()
        return page

    def sign_in_as(self, page: Page, name: str) -> None:
        page.get_by_label("Name").fill(name)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("navigation", name="Steps")).to_be_visible()

    def sign_out(self, page: Page) -> None:
        self.open_units(page)
        page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_label("Password")).to_be_visible()

    def test_what_one_logged_waits_while_another_is_signed_in_and_is_sent_as_his(self) -> None:
        sign_up(username="other", password=PASSWORD)
        first = self.fishing_without_a_way_out()
        second = first.context.new_page()
        second.goto("/read")
        self.sign_out(second)
        self.sign_in_as(second, "other")
        # The first tab hears of it.
        expect(first.get_by_role("navigation", name="Steps")).to_be_visible()
        first.context.unroute_all()
        first.goto("/fish")
        expect(first.get_by_role("button", name="Cast", exact=True)).to_have_count(0)
        self.assertEqual((Entry.objects.count(), first.evaluate(rows_of("outbox"))), (0, 2))
        self.sign_out(first)
        self.sign_in_as(first, "angler")
        first.goto("/fish")
        expect(first.get_by_text("all sent")).to_be_visible()
        self.wait_for(lambda: Entry.objects.count() == 2)
        self.assertEqual({entry.presentation.day.owner.username for entry in Entry.objects.all()}, {"angler"})
        self.assertEqual(sorted(Entry.objects.values_list("kind", flat=True)), ["cast", "knock"])

    def test_a_tab_that_did_not_hear_sends_nothing_under_anothers_name(self) -> None:
        sign_up(username="other", password=PASSWORD)
        page = self.fishing_without_a_way_out()
        # Signed in elsewhere on the device, by a page that tells nobody.
        page.evaluate(
            """async ([name, password]) => {
              const token = () => /csrftoken=([^;]+)/.exec(document.cookie)[1]
              const ask = (method, body) => fetch('/api/session', { method, body: JSON.stringify(body),
                headers: { 'Content-Type': 'application/json', 'X-CSRFToken': token() } })
              await ask('DELETE', {})
              await ask('POST', { username: name, password })
            }""",
            ["other", PASSWORD],
        )
        page.context.unroute_all()
        page.get_by_role("button", name="Nothing", exact=True).click()
        expect(page.get_by_text("3 kept here for angler: another person is signed in")).to_be_visible()
        self.assertEqual((Entry.objects.count(), page.evaluate(rows_of("outbox"))), (0, 3))

    def test_a_session_that_has_ended_is_said_and_signing_in_sends_what_waits(self) -> None:
        page = self.fishing_without_a_way_out()
        Session.objects.all().delete()
        page.context.unroute_all()
        page.get_by_role("button", name="Nothing", exact=True).click()
        page.get_by_role("link", name="Sign in to send 3").click()
        self.sign_in_as(page, "angler")
        self.wait_for(lambda: Entry.objects.count() == 3)
        page.goto("/fish")
        expect(page.get_by_text("all sent")).to_be_visible()

    def test_what_is_refused_is_tried_again_or_saved_or_dismissed(self) -> None:
        page = self.open(PHONE)
        self.start_fishing(page)
        expect(page.get_by_text("all sent")).to_be_visible()
        refuse = '{"code": "invalid", "detail": "Not so.", "fields": {}}'
        page.route(
            "**/api/days/*/entries/*", lambda route: route.fulfill(status=422, body=refuse, content_type="application/json")
        )
        page.get_by_role("button", name="Cast", exact=True).click()
        expect(page.get_by_role("alert")).to_contain_text("Not stored: Not so.")
        with page.expect_download() as saved:
            page.get_by_role("button", name="Save as a file").click()
        self.assertIn('"kind": "cast"', saved.value.path().read_text())
        page.unroute_all()
        page.get_by_role("button", name="Try again").click()
        expect(page.get_by_text("all sent")).to_be_visible()
        self.assertEqual(Entry.objects.get().kind, "cast")

    def test_signing_out_without_a_connection_says_that_it_has_not_happened(self) -> None:
        page = self.open(PHONE)
        self.start_fishing(page)
        self.contexts[-1].set_offline(True)
        self.open_units(page)
        page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_role("alert").filter(has_text="you are still signed in")).to_be_visible()
        self.contexts[-1].set_offline(False)
        page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_label("Password")).to_be_visible()
        self.assertFalse(Session.objects.exists() and page.request.get("/api/session").json()["username"])
