"""The test runner: Django's own, in as many processes as asked, with a last line that says how many tests ran."""

from __future__ import annotations

import logging
import sys
import time
import traceback
import warnings
from pathlib import Path
from typing import Any
from unittest import TestSuite, TextTestResult

import django.test.runner
from django.conf import settings
from django.db import connections
from django.test.runner import DiscoverRunner, ParallelTestSuite, RemoteTestResult, RemoteTestRunner

# What takes longest is begun first, so that no process is left with it alone at the end.
LONGEST_FIRST = ("PracticeTests", "SearchTests", "ContractTests", "AccessTests", "ServedTests", "UpgradeTests")


def _in_a_worker(*args: Any) -> None:
    """Give a worker its own store, as Django does, and its own folder for what is kept beside it."""
    django.test.runner._init_worker(*args)  # type: ignore[attr-defined]
    settings.KEPT_DIR = Path(settings.KEPT_DIR).with_name(f"test-kept-{django.test.runner._worker_id}")  # type: ignore[attr-defined]


def _weight(subsuite: Any) -> tuple[int, int]:
    first = type(next(iter(subsuite)))
    if first.__name__ in LONGEST_FIRST and not first.__module__.startswith("tests."):
        return 0, LONGEST_FIRST.index(first.__name__)
    return (1 if first.__module__.startswith("e2e.") else 2), 0


SLOW_S = 20.0
TIMES = settings.ROOT_DIR / "var" / "test-times.tsv"  # seconds, a test: what to shorten first


class TellingResult(RemoteTestResult):
    """What a worker tells of a test: a fault goes as text, since neither every exception nor every subtest can be sent; and it
    says which tests take long."""

    def startTest(self, test: Any) -> None:
        self._begun = time.monotonic()
        super().startTest(test)

    def stopTest(self, test: Any) -> None:
        took_s = time.monotonic() - self._begun
        with TIMES.open("a") as times:
            times.write(f"{took_s:.3f}\t{test.id()}\n")
        if took_s > SLOW_S:
            print(f"\n{took_s:.0f} s: {test.id()}", file=sys.stderr)  # noqa: T201 - for whoever wonders what takes so long
        super().stopTest(test)

    def addError(self, test: Any, err: Any) -> None:
        super().addError(test, _told(err))

    def addFailure(self, test: Any, err: Any) -> None:
        super().addFailure(test, _told(err))

    def addSubTest(self, test: Any, subtest: Any, err: Any) -> None:
        if err is not None:
            super().addFailure(test, _told(err, f"{subtest}\n"))


def _told(err: Any, where: str = "") -> Any:
    return AssertionError, AssertionError(where + "".join(traceback.format_exception(*err))), None


class TellingRunner(RemoteTestRunner):
    resultclass = TellingResult


class LongestFirstSuite(ParallelTestSuite):
    """Classes of tests in several processes, the longest first."""

    init_worker = _in_a_worker
    runner_class = TellingRunner

    def __init__(self, subsuites: Any, *args: Any, **kwargs: Any) -> None:
        super().__init__(sorted(subsuites, key=_weight), *args, **kwargs)


class CountingRunner(DiscoverRunner):
    """Warnings are errors, no test is retried, and the last line is "N passed, N failed, N skipped"."""

    parallel_test_suite = LongestFirstSuite
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

    def setup_databases(self, **kwargs: Any) -> Any:
        connection = connections["default"]
        if connection.vendor == "sqlite":
            # A test's store need not outlive a power cut.
            options = connection.settings_dict["OPTIONS"]
            options["init_command"] = options["init_command"].replace("synchronous=FULL", "synchronous=OFF")
            # What a run that was broken off left beside its stores belongs to none of the new ones.
            store = Path(connection.settings_dict["TEST"]["NAME"])
            for stray in store.parent.glob(f"{store.stem}*{store.suffix}*"):
                stray.unlink()
            clone = connection.creation.clone_test_db

            def whole(*args: Any, **kwargs: Any) -> None:
                # What was written last still lies beside the file that is copied.
                with connection.cursor() as cursor:
                    cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
                clone(*args, **kwargs)

            connection.creation.clone_test_db = whole  # type: ignore[method-assign]
        return super().setup_databases(**kwargs)

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
        TIMES.unlink(missing_ok=True)
        outcome = super().run_tests(test_labels, **kwargs)
        print(self.last_line)  # noqa: T201 - the one line a reader looks for
        return outcome
