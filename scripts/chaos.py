"""Break what can break between a device and the store, and hold the store to a model of the log: `make chaos`, five minutes.

Two processes serve one store behind a proxy that drops, delays, cuts, repeats and garbles what passes; the store is locked now
and then, a process is killed, clocks jump. A device that behaves as the page's outbox does logs, puts right and takes back.
Hypothesis chooses what happens, and what it found is told with its seed (`--seed`).
"""

from __future__ import annotations

import argparse
import contextlib
import itertools
import random
import sqlite3
import tempfile
import time
import uuid
from collections import Counter
from datetime import date
from http.client import HTTPException
from pathlib import Path
from typing import Any, ClassVar

from hypothesis import HealthCheck, Phase, seed, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule, run_state_machine_as_test
from soak import READ, ROOT, Person, Server

FAULTS = ("none", "none", "request lost", "answer lost", "answer cut", "a portal answers", "sent twice", "late")
STEPS, TRIES = 30, 12
LASTS_S = 280.0
RUNS_OF_A_SEED = 4
LOCKED_S, LATE_S = 1.5, 0.3
SELDOM = st.sampled_from((False,) * 5 + (True,))
CLOCKS_MS = (0, 3_600_000, -86_400_000, 5 * 365 * 86_400_000)


class Lost(OSError):
    """What was sent or answered did not arrive."""


class Line:
    """The way between a device and two processes, on which things go wrong."""

    went: ClassVar[Counter[str]] = Counter()

    def __init__(self, servers: list[Server], person: Person) -> None:
        self.servers, self.person = servers, person

    def ask(self, fault: str, method: str, path: str, body: Any) -> tuple[int, Any]:
        """Ask one of the processes; what is lost on the way raises, what a portal answers is no answer of ours."""
        self.went[fault] += 1
        if fault == "request lost":
            raise Lost
        if fault == "a portal answers":
            return 200, "<html>Welcome. Accept the terms.</html>"
        if fault == "late":
            time.sleep(LATE_S)
        self.person.server = random.choice(self.servers)
        answer = self.person.ask(method, path, body)
        if fault == "sent twice":
            again = self.person.ask(method, path, body)
            assert again[0] < 500 or again[0] == 503, again
        if fault in {"answer lost", "answer cut"}:
            raise Lost
        return answer


class Log(RuleBasedStateMachine):
    """A day's log as the device believes it is kept."""

    servers: ClassVar[list[Server]]
    person: ClassVar[Person]
    told: ClassVar[Counter[str]] = Counter()

    @initialize()
    def begin(self) -> None:
        self.person.server, self.person.more = self.servers[0], {}
        self.person.begin_day()
        self.line = Line(self.servers, self.person)
        self.kept: dict[str, dict[str, Any]] = {}
        self.notes: str | None = None
        self.told["runs"] += 1

    def until_kept(self, data: st.DataObject, method: str, path: str, body: Any, own_id: str | None) -> Any:
        """Send the same until our server says that it is kept, as the outbox does."""
        for i in range(TRIES):
            fault = data.draw(st.sampled_from(FAULTS)) if i < TRIES - 2 else "none"
            try:
                status, answer = self.line.ask(fault, method, path, body)
            except (OSError, HTTPException):
                continue
            if status in {429, 500, 502, 503, 507}:
                assert status != 500, answer
                time.sleep(0.2)
                continue
            if method == "DELETE" and status == 204:
                return None
            if status in {200, 201} and isinstance(answer, dict) and own_id in {None, answer.get("id")}:
                return answer
            if isinstance(answer, dict):
                raise AssertionError(f"{method} {path} was refused: {status} {answer}")
        raise AssertionError(f"{method} {path} was never kept")

    def _day(self) -> str:
        return f"/api/days/{self.person.day_id}"

    @rule(data=st.data(), kinds=st.lists(st.sampled_from(("cast", "nothing", "knock", "take")), min_size=1, max_size=4))
    def logs_a_few(self, data: st.DataObject, kinds: list[str]) -> None:
        for kind in kinds:
            self._log(data, kind)

    @rule(data=st.data())
    def casts(self, data: st.DataObject) -> None:
        self._log(data, "cast")

    def _log(self, data: st.DataObject, kind: str) -> None:
        entry_id = str(uuid.uuid4())
        body = {"presentation_id": str(self.person.presentation_id), "kind": kind, "at": READ["at_local"] + ":30Z"}
        self.until_kept(data, "PUT", f"{self._day()}/entries/{entry_id}", body, entry_id)
        self.kept[entry_id] = {"kind": kind, "undone": False}
        self.told["logged"] += 1

    @rule(data=st.data(), which=st.randoms(use_true_random=False))
    def takes_back(self, data: st.DataObject, which: random.Random) -> None:
        live = [key for key, one in self.kept.items() if not one["undone"]]
        if live:
            entry_id = which.choice(live)
            self.until_kept(data, "DELETE", f"{self._day()}/entries/{entry_id}", None, None)
            self.kept[entry_id]["undone"] = True
            self.told["taken back"] += 1

    @rule(data=st.data(), notes=st.text("abc äß€\n", max_size=20))
    def notes_down(self, data: st.DataObject, notes: str) -> None:
        self.until_kept(data, "PATCH", self._day(), {"notes": notes}, str(self.person.day_id))
        self.notes = notes
        self.told["notes"] += 1

    @rule(data=st.data(), by_ms=st.sampled_from(CLOCKS_MS))
    def clock_jumps(self, data: st.DataObject, by_ms: int) -> None:
        now = int(time.time() * 1000) + by_ms
        self.person.more = {"X-Written-Ms": str(now - 5000), "X-Now-Ms": str(now), "X-Ran-Ms": "5000"}
        self.told["clock jumps"] += 1

    @rule(now=SELDOM)
    def the_store_is_locked(self, now: bool) -> None:
        if not now:
            return
        with contextlib.closing(sqlite3.connect(self.servers[0].store, timeout=10.0)) as store:
            store.execute("BEGIN IMMEDIATE")
            time.sleep(random.uniform(0.0, LOCKED_S))
            store.rollback()
        self.told["locks"] += 1

    @rule(now=SELDOM)
    def a_process_is_killed(self, now: bool) -> None:
        if not now:
            return
        one = random.choice(self.servers)
        one.kill()
        one.start()
        self.told["kills"] += 1

    @invariant()
    def the_store_equals_the_model(self) -> None:
        if not hasattr(self, "kept"):
            return
        with contextlib.closing(sqlite3.connect(self.servers[0].store, timeout=10.0)) as store:
            rows = store.execute(
                "SELECT e.id, e.kind, e.undone_at IS NOT NULL FROM days_entry e JOIN days_presentation p"
                " ON p.id = e.presentation_id WHERE p.day_id = ?",
                (self.person.day_id.hex,),
            ).fetchall()
            (notes,) = store.execute("SELECT notes FROM days_day WHERE id = ?", (self.person.day_id.hex,)).fetchone()
        there = {str(uuid.UUID(key)): {"kind": kind, "undone": bool(undone)} for key, kind, undone in rows}
        assert len(there) == len(rows), "an entry is stored twice"
        assert there == self.kept, f"the store has {len(there)} entries, the device believes in {len(self.kept)}"
        assert self.notes is None or notes == self.notes, (notes, self.notes)
        self.told["times held to the model"] += 1


def main() -> None:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--seed", type=int, default=random.randrange(2**32))
    asked.add_argument("--seconds", type=float, default=LASTS_S)
    told = asked.parse_args()
    began = time.monotonic()
    with tempfile.TemporaryDirectory() as folder:
        first = Server(Path(folder))
        Log.servers = [first, first.beside()]
        Log.person = Person(first, "angler", day=False)
        try:
            how = settings(
                max_examples=RUNS_OF_A_SEED, stateful_step_count=STEPS, deadline=None, database=None,
                suppress_health_check=list(HealthCheck), report_multiple_bugs=False, phases=[Phase.generate],
            )  # fmt: skip
            # A few runs a seed, the first the plainest: what is found is seen again by `--seed` and `--seconds 0`.
            for own_seed in itertools.count(told.seed):
                print(f"seed {own_seed}", flush=True)
                random.seed(own_seed)
                run_state_machine_as_test(seed(own_seed)(Log), settings=how)
                if time.monotonic() - began > told.seconds:
                    break
        finally:
            for one in Log.servers:
                one.kill()
    # Whoever comes here has been held to the model after every step.
    text = [
        "# Chaos",
        "",
        f"Written by `make chaos` on {date.today():%d %B %Y}, in {time.monotonic() - began:.0f} s, from seed {told.seed} on.",
        "Two processes on one store; between them and",
        "the device a way that loses requests and answers, repeats them, answers for a portal, comes late; the store is",
        "locked, a process is killed, clocks jump by an hour, a day and years. After every step the store is held to a model",
        "of the log.",
        "",
        "| what | how often |",
        "|---|---|",
        *(f"| {name} | {n} |" for name, n in Log.told.items()),
        *(f"| on the way: {name} | {n} |" for name, n in sorted(Line.went.items())),
        "| acknowledged and lost | 0 |",
        "| stored twice | 0 |",
    ]
    (ROOT / "docs" / "chaos.md").write_text("\n".join(text) + "\n")
    print("\n".join(text[8:]))


if __name__ == "__main__":
    main()
