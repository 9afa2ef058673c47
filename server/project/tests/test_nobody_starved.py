"""Long work never keeps short work waiting: two at a time, a short queue, one answer to one question, and rates a person can keep."""

from __future__ import annotations

import threading
import time
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from unittest import TestCase as PlainTestCase

from common.job_limiter import JobLimiter
from common.problems import Refused
from django.core.cache import cache
from django.test import Client, override_settings

from project.tests.people import JSON, PASSWORD, PeopleTestCase, conditions


class WorksTests(PlainTestCase):
    def setUp(self) -> None:
        self.go = threading.Event()
        self.addCleanup(self.go.set)
        self.running = 0
        self.most = 0
        self.done: list[Any] = []
        self.lock = threading.Lock()

    def work(self, name: Any) -> Any:
        with self.lock:
            self.running += 1
            self.most = max(self.most, self.running)
        self.go.wait(20)
        with self.lock:
            self.running -= 1
            self.done.append(name)
        return name

    def until(self, true: Any) -> None:
        end = time.monotonic() + 20
        while not true() and time.monotonic() < end:
            time.sleep(0.005)
        self.assertTrue(true())

    def test_two_run_others_wait_and_what_finds_no_place_is_told_when_to_come_back(self) -> None:
        works = JobLimiter(at_once=2, waiting=3)
        with ThreadPoolExecutor(8) as threads:
            asked = [threads.submit(works.do, who, "q", lambda who=who: self.work(who)) for who in range(5)]
            self.until(lambda: works._of.total() == 5 and self.running == 2)
            with self.assertRaises(Refused) as refused:
                works.do("one more", "q", lambda: self.work("never"))
            self.assertEqual((refused.exception.status, refused.exception.retry_after_s), (503, 3))
            self.go.set()
            self.assertEqual([one.result() for one in asked], list(range(5)))
        self.assertEqual((self.most, sorted(self.done)), (2, list(range(5))))
        self.assertEqual(works.do("later", "q", lambda: "free again"), "free again")

    def test_the_same_question_of_the_same_person_is_worked_out_once_and_anothers_is_not_shared(self) -> None:
        works = JobLimiter()
        with ThreadPoolExecutor(8) as threads:
            mine = [threads.submit(works.do, "me", "q", lambda: self.work("mine")) for _ in range(5)]
            other = threads.submit(works.do, "you", "q", lambda: self.work("yours"))
            self.until(lambda: self.running == 2)
            self.go.set()
            self.assertEqual([one.result() for one in mine], ["mine"] * 5)
            self.assertEqual(other.result(), "yours")
        self.assertEqual(sorted(self.done), ["mine", "yours"])

    def test_one_person_takes_not_all_the_places(self) -> None:
        works = JobLimiter(each=2)
        with ThreadPoolExecutor(8) as threads:
            for question in range(2):
                threads.submit(works.do, "me", question, lambda: self.work("mine"))
            self.until(lambda: works._of["me"] == 2)
            with self.assertRaises(Refused) as refused:
                works.do("me", "third", lambda: self.work("never"))
            self.assertEqual(refused.exception.status, 429)
            self.go.set()

    def test_a_failure_is_told_to_all_who_asked_and_leaves_the_place_free(self) -> None:
        works = JobLimiter(at_once=1)

        def fails() -> None:
            self.go.wait(20)
            raise ValueError("of the work")

        with ThreadPoolExecutor(4) as threads:
            asked = [threads.submit(works.do, "me", "q", fails) for _ in range(3)]
            self.until(lambda: works._of["me"] == 1)
            self.go.set()
            for one in asked:
                with self.assertRaises(ValueError):
                    one.result()
        self.assertEqual(works.do("me", "q", lambda: 7), 7)

    def test_who_waited_too_long_is_told_to_come_back(self) -> None:
        works = JobLimiter(at_once=1, patience_s=0.05)
        with ThreadPoolExecutor(2) as threads:
            threads.submit(works.do, "first", "q", lambda: self.work("first"))
            self.until(lambda: self.running == 1)
            with self.assertRaises(Refused) as refused:
                works.do("second", "q", lambda: self.work("never"))
            self.assertEqual(refused.exception.status, 503)
            self.go.set()


@override_settings(RATELIMIT_ENABLE=True)
class RateTests(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        cache.clear()
        self.addCleanup(cache.clear)

    def assert_too_many(self, answer: Any) -> None:
        self.assertEqual((answer.status_code, answer.json()["code"]), (429, "too_many"))
        self.assertTrue(1 <= int(answer["Retry-After"]) <= 3600)

    def test_plans_have_a_rate_for_each_person_and_the_log_has_none(self) -> None:
        wrong: dict[str, Any] = {"conditions": {}}
        answers = [self.post("/api/choices", wrong) for _ in range(91)]
        self.assertEqual({one.status_code for one in answers[:90]}, {422})
        self.assert_too_many(answers[90])
        self.client.force_login(self.other)
        self.assertEqual(self.post("/api/choices", wrong).status_code, 422)
        self.client.force_login(self.angler)
        self.assertEqual(self.post("/api/pictures", conditions(self.water)).status_code, 200)
        self.log_day()

    def test_sign_ups_and_tries_over_many_names_have_a_rate_for_each_address(self) -> None:
        visitor = Client()
        weak = {"username": "someone", "password": "x"}
        ups = [visitor.post("/api/people", weak, content_type=JSON) for _ in range(21)]
        self.assertEqual({one.status_code for one in ups[:20]}, {422})
        self.assert_too_many(ups[20])
        tries = [
            visitor.post("/api/session", {"username": f"name-{i}", "password": "guess"}, content_type=JSON) for i in range(31)
        ]
        self.assertEqual({one.status_code for one in tries[:30]}, {401})
        self.assert_too_many(tries[30])
        elsewhere = Client(REMOTE_ADDR="192.0.2.7")
        told = elsewhere.post("/api/session", {"username": "angler", "password": PASSWORD}, content_type=JSON)
        self.assertEqual(told.status_code, 200)
