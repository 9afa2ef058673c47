"""The test runner: Django's own, with a last line that says how many tests ran."""

from __future__ import annotations

import logging
import warnings
from typing import Any
from unittest import TestSuite, TextTestResult

from django.conf import settings
from django.test.runner import DiscoverRunner


class CountingRunner(DiscoverRunner):
    """Warnings are errors, no test is retried, and the last line is "N passed, N failed, N skipped"."""

    last_line = "0 passed, 0 failed, 0 skipped"

    def setup_test_environment(self, **kwargs: Any) -> None:
        super().setup_test_environment(**kwargs)
        # Strong hashing is slow by design, and the tests sign up hundreds of people.
        settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
        settings.KEPT_DIR = settings.ROOT_DIR / "var" / "test-kept"
        settings.RATELIMIT_ENABLE = False  # and ask more in a minute than a person does
        # Refusals are what many tests ask for.
        logging.getLogger("django.request").setLevel(logging.CRITICAL)
        logging.getLogger("django.security.csrf").setLevel(logging.CRITICAL)
        logging.getLogger("axes").setLevel(logging.CRITICAL)

    def run_suite(self, suite: TestSuite, **kwargs: Any) -> TextTestResult:
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            result = super().run_suite(suite, **kwargs)
        # A test with several subtests at fault is still one test.
        at_fault = [getattr(test, "test_case", test) for test, _ in (*result.failures, *result.errors)]
        failed = len({test.id() for test in at_fault}) + len(result.unexpectedSuccesses)
        skipped = len(result.skipped)
        self.last_line = f"{result.testsRun - failed - skipped} passed, {failed} failed, {skipped} skipped"
        return result

    def run_tests(self, test_labels: list[str], **kwargs: Any) -> int:
        outcome = super().run_tests(test_labels, **kwargs)
        print(self.last_line)  # noqa: T201 - the one line a reader looks for
        return outcome
