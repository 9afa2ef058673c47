"""Long work: a few at a time, a short queue behind them, and the same question answered once."""

from __future__ import annotations

import threading
from collections import Counter
from collections.abc import Callable, Hashable
from concurrent.futures import Future
from concurrent.futures import TimeoutError as WaitedTooLong
from typing import Any, TypeVar

from common.problems import Refused

T = TypeVar("T")


class JobLimiter:
    """Lets `at_once` pieces of work run and `waiting` more wait up to `patience_s`; one person has `each` of these at most.

    What finds no place is refused at once, with when to try again, so that the threads of the server stay free for what is
    short: above all for the log.
    """

    def __init__(self, *, at_once: int = 2, waiting: int = 10, each: int = 4, patience_s: float = 25.0) -> None:
        self._places = threading.BoundedSemaphore(at_once)
        self._most, self._each, self._patience_s = at_once + waiting, each, patience_s
        self._lock = threading.Lock()
        self._asked: dict[Hashable, Future[Any]] = {}
        self._of: Counter[Hashable] = Counter()

    def asked(self) -> int:
        """Return how many pieces of work run or wait."""
        with self._lock:
            return self._of.total()

    def do(self, who: Hashable, question: Hashable, work: Callable[[], T]) -> T:
        """Return what `work` gives, or what it gives to another request of the same person with the same question.

        Raises
        ------
        Refused
            With 429 where this person asks too much at a time, with 503 where everybody does.
        """
        key = (who, question)
        with self._lock:
            asked: Future[T] | None = self._asked.get(key)
            if asked is None:
                if self._of[who] >= self._each:
                    raise Refused(429, "too_many", "You ask for much at a time. Wait for the answers.", retry_after_s=3)
                if self._of.total() >= self._most:
                    raise _busy()
                mine: Future[T] = Future()
                self._asked[key] = mine
                self._of[who] += 1
        if asked is not None:
            return self._anothers(asked)
        try:
            done = self._worked(work)
            mine.set_result(done)
        except BaseException as error:
            mine.set_exception(error)
            raise
        finally:
            with self._lock:
                del self._asked[key]
                self._of[who] -= 1
                if not self._of[who]:
                    del self._of[who]
        return done

    def _worked(self, work: Callable[[], T]) -> T:
        if not self._places.acquire(timeout=self._patience_s):
            raise _busy()
        try:
            return work()
        finally:
            self._places.release()

    def _anothers(self, asked: Future[T]) -> T:
        try:
            return asked.result(timeout=2.0 * self._patience_s)
        except WaitedTooLong:
            raise _busy() from None


def _busy() -> Refused:
    return Refused(503, "busy", "Much is being worked out just now. Try again in a moment.", retry_after_s=3)


jobs = JobLimiter()
