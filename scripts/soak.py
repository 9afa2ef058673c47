"""Try to lose an entry and to starve somebody, and write docs/reliability.md. `make soak` runs it, in some ten minutes."""

from __future__ import annotations

import json
import os
import platform
import random
import socket
import sqlite3
import statistics
import subprocess
import sys
import tempfile
import threading
import time
import uuid
from collections import Counter
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from datetime import date, datetime, timezone
from http.client import HTTPConnection, HTTPException
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
SERVER = ROOT / "server"
PASSWORD = "cold-hands-warm-heart-7"
KILLS = 6
BETWEEN_KILLS_S = 6.0
WRITERS = 4
TAPS = 60
PEOPLE = 20
LOAD_S = 60.0
SLOW = 500


Row = tuple[str, str, str]


class Server:
    """A server process on a store of its own, to be killed and started again."""

    def __init__(self, folder: Path) -> None:
        self.store = folder / "soak.sqlite3"
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port: int = probe.getsockname()[1]
        self.environment = {
            **os.environ,
            "STILLTHREAD_LOCAL": "1",
            "STILLTHREAD_DB": str(self.store),
            "DATABASE_URL": "",
            "STILLTHREAD_LISTEN": f"127.0.0.1:{self.port}",
        }
        subprocess.run([sys.executable, "manage.py", "migrate", "-v0"], cwd=SERVER, env=self.environment, check=True)
        self.start()

    def beside(self) -> Server:
        """Start another process on the same store."""
        return Server(self.store.parent)

    def start(self) -> None:
        self.process = subprocess.Popen([sys.executable, "-m", "project.serve"], cwd=SERVER, env=self.environment)
        end = time.monotonic() + 60.0
        while time.monotonic() < end:
            try:
                line = HTTPConnection("127.0.0.1", self.port, timeout=5)
                line.request("GET", "/api/health")
                if line.getresponse().status == 200:
                    return
            except OSError:
                time.sleep(0.05)
        raise RuntimeError("the server did not start")

    def kill(self) -> None:
        self.process.kill()
        self.process.wait()


class Person:
    """Somebody signed up, with a water and a day begun."""

    def __init__(self, server: Server, name: str, *, day: bool = True) -> None:
        self.server = server
        self.cookies: dict[str, str] = {}
        self.more: dict[str, str] = {}
        self.ask("GET", "/api/session")
        status, _ = self.ask("POST", "/api/people", {"username": name, "password": PASSWORD})
        assert status == 201, status
        self.name = name
        _, water = self.ask("POST", "/api/waters", WATER)
        self.water_id: int = water["id"]
        self.conditions: dict[str, Any] = {**READ, "water_id": self.water_id}
        self.day_id, self.presentation_id = uuid.uuid4(), uuid.uuid4()
        if day:
            self.begin_day()

    def begin_day(self) -> None:
        """Begin another day, with something tied on."""
        self.day_id, self.presentation_id = uuid.uuid4(), uuid.uuid4()
        day_path = f"/api/days/{self.day_id}"
        assert self.ask("PUT", day_path, self.conditions)[0] == 201
        begun = {**FISHED, "started_at": READ["at_local"] + ":00Z"}
        assert self.ask("PUT", f"{day_path}/presentations/{self.presentation_id}", begun)[0] == 201

    def ask(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        line = HTTPConnection("127.0.0.1", self.server.port, timeout=60)
        try:
            headers = {"Cookie": "; ".join(f"{k}={v}" for k, v in self.cookies.items()), "Content-Type": "application/json"}
            headers |= {"X-CSRFToken": self.cookies.get("csrftoken", ""), **self.more}
            line.request(method, path, None if body is None else json.dumps(body), headers)
            answer = line.getresponse()
            for cookie in answer.headers.get_all("Set-Cookie") or []:
                name, value = cookie.split(";")[0].split("=", 1)
                self.cookies[name] = value
            text = answer.read()
            return answer.status, json.loads(text) if text else None
        finally:
            line.close()

    def entry(self, entry_id: uuid.UUID) -> int:
        body = {"presentation_id": str(self.presentation_id), "kind": "cast", "at": datetime.now(timezone.utc).isoformat()}
        return self.ask("PUT", f"/api/days/{self.day_id}/entries/{entry_id}", body)[0]


WATER = {
    "name": "Soak water", "latitude_deg": 61.2, "longitude_deg": 9.4, "altitude_m": 412.0, "time_zone": "Etc/GMT-2",
    "species": "rainbow", "fetch_km": 2.0, "usual_bottom_depth_m": 9.0, "usual_secchi_m": 3.5,
}  # fmt: skip
SUMMER_C = (18.6, 18.5, 18.4, 18.0, 16.8, 14.6, 12.5, 11.2, 10.2)
READ: dict[str, Any] = {
    "at_local": "2026-07-14T10:40", "readings": [{"depth_m": float(d), "water_c": t} for d, t in enumerate(SUMMER_C)],
    "wind_speed_mps": 4.0, "wind_from_deg": 225.0, "cloud_fraction": 0.2, "secchi_m": 3.5, "bottom_depth_m": 9.0,
}  # fmt: skip
FISHED: dict[str, Any] = {
    "rig": {
        "line": {"name": "Type 3 sinker", "class_key": "type-3", "number": 6, "sink_rate_mps": 0.0762},
        "leader": {"name": "12 ft", "sections": [{"length_m": 3.7, "diameter_m": 0.0002, "material": "fluorocarbon"}]},
        "flies": [{"fly": {"name": "Slim olive nymph", "hook_size": 14, "wire": "fine"}}],
    },
    "action": {"kind": "cast", "cast_m": 18.0, "count_s": 20.0, "retrieve_key": "strip-pause"},
}  # fmt: skip


def lost_of(server: Server, acknowledged: list[uuid.UUID]) -> tuple[int, int, str]:
    """Return how many acknowledged entries the store lacks, how many it has in all, and what it says of itself."""
    with sqlite3.connect(server.store) as store:
        kept = {row[0] for row in store.execute("SELECT id FROM days_entry")}
        said = store.execute("PRAGMA integrity_check").fetchone()[0]
    store.close()
    return sum(one.hex not in kept for one in acknowledged), len(kept), said


def killed(server: Server) -> list[tuple[str, str, str]]:
    """Log from several devices while the server is killed again and again."""
    people = [Person(server, f"writer-{i}") for i in range(WRITERS)]
    done, acknowledged, unanswered = threading.Event(), [], Counter[str]()

    def write(person: Person) -> None:
        while not done.is_set():
            entry_id = uuid.uuid4()
            while True:  # a device sends the same until it is told that it is kept
                try:
                    status = person.entry(entry_id)
                except (OSError, HTTPException):
                    unanswered["no answer"] += 1
                    time.sleep(0.05)
                    continue
                if status in {200, 201}:
                    acknowledged.append(entry_id)
                    break
                unanswered[str(status)] += 1
                time.sleep(0.05)

    with ThreadPoolExecutor(WRITERS) as threads:
        for person in people:
            threads.submit(write, person)
        for _ in range(KILLS):
            time.sleep(BETWEEN_KILLS_S * random.uniform(0.5, 1.5))
            server.kill()
            server.start()
        time.sleep(2.0)
        done.set()
    lost, kept, said = lost_of(server, acknowledged)
    return [
        (f"acknowledged entries lost over {KILLS} kills -9, {WRITERS} devices", f"{lost} of {len(acknowledged)}", "0"),
        ("of them stored twice", str(len(acknowledged) - len(set(acknowledged)) + kept - len(set(acknowledged))), "0"),
        ("requests without an answer, sent again", str(sum(unanswered.values())), "-"),
        ("what the store says of itself", said, "ok"),
    ]


@contextmanager
def phone(port: int) -> Iterator[Any]:
    sys.path.insert(0, str(SERVER))
    from e2e.chromium import CHROMIUM, FLAGS, PHONE
    from playwright.sync_api import sync_playwright

    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        context = browser.new_context(
            viewport={"width": PHONE[0], "height": PHONE[1]}, base_url=f"http://127.0.0.1:{port}", service_workers="block"
        )
        context.set_default_timeout(60_000)
        yield context
        browser.close()


def offline(server: Server) -> list[tuple[str, str, str]]:
    """Tap on a phone without signal, then send while the server is killed once more."""
    person = Person(server, "phone-angler", day=False)
    with phone(server.port) as context:
        page = context.new_page()
        page.goto("/")
        page.get_by_label("Name").fill(person.name)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_label("Surface temperature").wait_for(state="attached")
        page.evaluate("document.querySelectorAll('details').forEach((one) => { one.open = true })")
        page.get_by_label("Day and time at the water").fill("2026-07-14T10:40")
        page.get_by_label("Surface temperature").fill("18.6")
        page.get_by_role("button", name="Choose the rig").click()
        page.get_by_role("button", name="Fish this").click()
        cast = page.get_by_role("button", name="Cast", exact=True)
        cast.wait_for()
        context.set_offline(True)
        for i in range(TAPS // 2):
            cast.click()
            page.get_by_role("button", name="Undo cast").wait_for()
            page.get_by_role("button", name="Knock" if i % 3 else "Nothing", exact=True).click()
            page.get_by_role("button", name="Undo knock" if i % 3 else "Undo nothing").wait_for()
            if i % 3:
                page.get_by_role("button", name="Lost", exact=True).click()
                page.get_by_role("button", name="Undo lost").wait_for()
        tapped = TAPS // 2 * 2 + sum(1 for i in range(TAPS // 2) if i % 3)
        server.kill()
        context.set_offline(False)
        server.start()
        page.evaluate("dispatchEvent(new Event('online'))")
        page.get_by_text("all sent").wait_for()
    with sqlite3.connect(server.store) as store:
        kept = store.execute(
            "SELECT count(*) FROM days_entry e JOIN days_presentation p ON p.id = e.presentation_id"
            " JOIN days_day d ON d.id = p.day_id JOIN accounts_user u ON u.id = d.owner_id WHERE u.username = ?",
            (person.name,),
        ).fetchone()[0]
    store.close()
    return [("taps without signal, then a killed server: lost", f"{tapped - kept} of {tapped}", "0")]


def load(server: Server) -> list[tuple[str, str, str]]:
    """Let many plan at once, and log and read meanwhile."""
    people = [Person(server, f"load-{i}") for i in range(PEOPLE - WRITERS)]  # sign-ups have a rate
    until = time.monotonic() + LOAD_S
    took: dict[str, list[float]] = {"plan": [], "log": [], "picture": []}
    answers: Counter[tuple[str, int]] = Counter()
    acknowledged: list[uuid.UUID] = []

    def timed(kind: str, ask: Any) -> int:
        begun = time.perf_counter()
        status: int = ask()
        answers[kind, status] += 1
        if status in {200, 201}:
            took[kind].append(time.perf_counter() - begun)
        return status

    def plans(person: Person, i: int) -> None:
        turn = 0
        while time.monotonic() < until:
            turn += 1
            asked = {"conditions": {**person.conditions, "wind_from_deg": float((i * 37 + turn * 11) % 360)}}
            if timed("plan", lambda asked=asked: person.ask("POST", "/api/choices", asked)[0]) != 200:
                time.sleep(3.0)  # as Retry-After says

    def logs(person: Person) -> None:
        while time.monotonic() < until:
            entry_id = uuid.uuid4()
            if timed("log", lambda entry_id=entry_id: person.entry(entry_id)) in {200, 201}:
                acknowledged.append(entry_id)
            timed("picture", lambda: person.ask("POST", "/api/pictures", person.conditions)[0])
            time.sleep(0.5)

    with ThreadPoolExecutor(2 * PEOPLE) as threads:
        running = [threads.submit(plans, person, i) for i, person in enumerate(people)]
        running += [threads.submit(logs, person) for person in people[:6]]
        for one in running:
            one.result()
    lost, _, _ = lost_of(server, acknowledged)

    def figure(kind: str) -> str:
        durations = sorted(took[kind])
        if not durations:
            return "none"
        p95 = durations[min(int(0.95 * len(durations)), len(durations) - 1)]
        return f"{len(durations)}: median {1000 * statistics.median(durations):.0f} ms, p95 {1000 * p95:.0f} ms"

    refused = {status: count for (kind, status), count in sorted(answers.items()) if kind == "plan" and status != 200}
    short = Counter({status: n for (kind, status), n in answers.items() if kind != "plan" and status not in {200, 201}})
    return [
        (f"{len(people)} people who plan without a pause, for {LOAD_S:.0f} s: plans", figure("plan"), "-"),
        ("plans told to come back later", f"{refused or 'none'}", "429 or 503 only"),
        ("log entries meanwhile", figure("log"), "p95 300 ms"),
        ("pictures meanwhile", figure("picture"), "p95 300 ms"),
        ("short requests refused, or entries lost", f"{dict(short) or 'none'}, {lost}", "none, 0"),
    ]


def slow_visitors(server: Server) -> list[tuple[str, str, str]]:
    """Hold many half-sent requests open, and ask in between."""
    half = b"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 400\r\n\r\n{"
    lines = []
    for _ in range(SLOW):
        line = socket.create_connection(("127.0.0.1", server.port))
        line.sendall(half)
        lines.append(line)
    durations = []
    for _ in range(20):
        begun = time.perf_counter()
        asked = HTTPConnection("127.0.0.1", server.port, timeout=60)
        asked.request("GET", "/api/session")
        assert asked.getresponse().status == 200
        durations.append(1000 * (time.perf_counter() - begun))
    for one in lines:
        one.close()
    return [(f"an answer while {SLOW} visitors are in the middle of a request", f"at most {max(durations):.0f} ms", "300 ms")]


def largest(server: Server) -> list[tuple[str, str, str]]:
    """Time the largest questions of the contract, each asked alone."""
    person = Person(server, "largest")
    odd = [{"depth_m": round(30.0 * i / 2000, 3), "water_c": 18.0 if i % 2 else 6.0} for i in range(2000)]
    read = {
        **person.conditions, "readings": odd, "bottom_depth_m": 30.0,
        "earlier": [{"at_local": f"2026-07-14T0{i % 9}:1{i // 9}", "readings": odd} for i in range(12)],
    }  # fmt: skip
    rows = []
    for name, path, body in (
        ("picture", "/api/pictures", read), ("day strip", "/api/day-strips", {"conditions": read}),
        ("plan", "/api/choices", {"conditions": read}), ("where to start", "/api/starts", read),
    ):  # fmt: skip
        durations = []
        for _ in range(3):
            begun = time.perf_counter()
            status, _ = person.ask("POST", path, body)
            durations.append(time.perf_counter() - begun)
            assert status == 200, (name, status)
        rows.append(
            (f"the largest question: {name}, 26 000 readings all at odds", f"{1000 * min(durations):.0f} ms", "1 000 ms")
        )
    return rows


def main() -> None:
    from soak_disk import archive, full_disk

    begun = time.monotonic()
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder))
        try:
            parts = [
                ("## Killed", killed(server)),
                ("## Without signal", offline(server)),
                ("## Under load", load(server)),
                ("## Slow visitors", slow_visitors(server)),
                ("## Large questions", largest(server)),
            ]
        finally:
            server.kill()
    parts += [("## Full disk", full_disk()), ("## The archive", archive())]
    lines = [
        "# Reliability",
        "",
        f"Written by `make soak` on {date.today():%d %B %Y} ({platform.machine()}, {os.cpu_count()} cores, Python"
        f" {platform.python_version()}), in {time.monotonic() - begun:.0f} s. The log is what must not be lost: each row says"
        " what was done to it, what came of it, and what it is held against.",
        "",
        "What a device does without signal, with a wrong clock, a full disk or another person's session, and what a server"
        " answers to input of any kind, is tested at every `make test` (server/e2e, server/project/tests).",
    ]
    for title, rows in parts:
        lines += ["", title, "", "| what | found | held against |", "|---|---|---|"]
        lines += [f"| {what} | {found} | {aim} |" for what, found, aim in rows]
    (ROOT / "docs" / "reliability.md").write_text("\n".join(lines) + "\n")
    print("\n".join(lines))


if __name__ == "__main__":
    main()
