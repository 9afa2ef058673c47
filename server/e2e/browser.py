"""A browser on the live server: Debian's headless Chromium, driven by Playwright."""

from __future__ import annotations

import os
import re
import time
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.db import connections
from playwright.sync_api import Browser, BrowserContext, Page, Playwright, expect, sync_playwright

from advice.services import warm_up
from e2e.chromium import CHROMIUM, DESK, FLAGS

LONG_MS = 150_000  # a test waits for what the screen says, however slow the machine; only what never comes takes this long


class BrowserTestCase(StaticLiveServerTestCase):
    """Pages of one browser; a script error, a refused resource or a request to another host fails the test."""

    playwright: Playwright
    browser: Browser
    _before: str | None

    @classmethod
    def setUpClass(cls) -> None:
        # Playwright's own event loop makes Django think that the store is used from asynchronous code.
        cls._before = os.environ.get("DJANGO_ALLOW_ASYNC_UNSAFE")
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "1"
        super().setUpClass()
        warm_up()  # a page waits for an answer, not for a compiler
        expect.set_options(timeout=LONG_MS)
        cls.playwright = sync_playwright().start()
        cls.browser = cls.playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.browser.close()
        cls.playwright.stop()
        super().tearDownClass()
        if cls._before is None:
            del os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"]
        else:
            os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = cls._before

    def setUp(self) -> None:
        super().setUp()
        self.assertTrue((settings.WEB_BUILD_DIR / "index.html").is_file(), "build the web part first: make web")
        self.faults: list[str] = []
        self.contexts: list[BrowserContext] = []

    def tearDown(self) -> None:
        for context in self.contexts:
            context.close()
        connections.close_all()
        super().tearDown()

    def open(self, size: tuple[int, int] = DESK, **options: Any) -> Page:
        """Return a new page in a context of its own. It keeps no copy of itself unless `service_workers` is "allow"."""
        options = {"service_workers": "block", **options}
        context = self.browser.new_context(
            viewport={"width": size[0], "height": size[1]}, base_url=self.live_server_url, **options
        )
        context.set_default_timeout(LONG_MS)
        self.contexts.append(context)
        page = context.new_page()
        page.on("pageerror", lambda error: self.faults.append(str(error)))
        page.on("console", self._hear)
        page.on("request", self._watch)
        return page

    def _hear(self, message: Any) -> None:
        # A refusal by the API is an answer; the browser logs it all the same.
        answered = re.search(r"status of (401|404|409|422|429)|ERR_INTERNET_DISCONNECTED", message.text)
        slow = message.text.startswith("Python starts from nothing")
        if slow or (message.type == "error" and not answered):
            self.faults.append(message.text)

    def _watch(self, request: Any) -> None:
        # Everything ships with the application: no page asks any other host for anything.
        if not request.url.startswith((self.live_server_url, "data:", "blob:")):
            self.faults.append(f"asks elsewhere: {request.url}")

    def hold_session(self, page: Page, user: Any) -> None:
        """Give the browser the cookie of a session of this person."""
        signed_in = self.client_class()  # each browser has a session of its own
        signed_in.force_login(user)
        cookie = signed_in.cookies[settings.SESSION_COOKIE_NAME]
        page.context.add_cookies([{"name": cookie.key, "value": cookie.value, "url": self.live_server_url}])

    def settle(self, page: Page) -> None:
        """Wait until nothing on the page is being asked or worked out anew."""
        expect(page.locator("[aria-busy=true]")).to_have_count(0)

    def wait_for(self, came: Callable[[], bool]) -> None:
        """Wait until it has arrived: the device sends when it can, not when a test looks."""
        until = time.monotonic() + LONG_MS / 1000.0
        while not came() and time.monotonic() < until:
            time.sleep(0.05)
        self.assertTrue(came(), "it never arrived")

    def assert_no_faults(self) -> None:
        self.assertEqual(self.faults, [])
