"""The server as it is started for a demo: slow visitors keep nobody waiting, a proxy is believed only where it is named, and a
store that can't be used is told of."""

from __future__ import annotations

import http.client
import json
import os
import socket
import sqlite3
import subprocess
import sys
import tempfile
import time
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any
from unittest import TestCase

from django.conf import settings

from project.tests.stores import lay_store

HALF = b"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 400\r\n\r\n{"
LONG_S = 60.0
SOMEONE = {"username": "angler", "password": "cold-hands-warm-heart-7"}
SHORT = {**SOMEONE, "password": "short"}


class Server:
    """A server process of its own with a store of its own."""

    def __init__(self, test: TestCase, **environment: str) -> None:
        folder = tempfile.TemporaryDirectory()
        test.addCleanup(folder.cleanup)
        self.store = Path(folder.name) / "log.sqlite3"
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port: int = probe.getsockname()[1]
        how = {**os.environ, "STILLTHREAD_LOCAL": "1", "STILLTHREAD_DB": str(self.store), "DATABASE_URL": "", **environment}
        how["STILLTHREAD_LISTEN"] = f"127.0.0.1:{self.port}"
        if "STILLTHREAD_DB" not in environment:
            lay_store(self.store)
        self.process = subprocess.Popen(
            [sys.executable, "-m", "project.serve"], cwd=settings.SERVER_DIR, env=how, stderr=subprocess.DEVNULL
        )
        test.addCleanup(self.stop)
        end = time.monotonic() + LONG_S
        while time.monotonic() < end:
            try:
                if self.ask("GET", "/api/session")[0] == 200:
                    return
            except OSError:
                time.sleep(0.05)
        raise AssertionError("the server did not start")

    def stop(self) -> None:
        self.process.terminate()
        self.process.wait(LONG_S)

    def ask(self, method: str, path: str, body: Any = None, **headers: str) -> tuple[int, Any, Any]:
        line = http.client.HTTPConnection("127.0.0.1", self.port, timeout=LONG_S)
        try:
            data = None if body is None else json.dumps(body)
            line.request(method, path, data, {"Content-Type": "application/json", **headers})
            answer = line.getresponse()
            text = answer.read()
            return answer.status, json.loads(text or b"null"), answer.headers
        finally:
            line.close()

    def sign_in(self, name: str, password: str, **headers: str) -> tuple[int, str]:
        _, _, told = self.ask("GET", "/api/session")
        token = told["Set-Cookie"].split("csrftoken=")[1].split(";")[0]
        given = {"Cookie": f"csrftoken={token}", "X-CSRFToken": token, **headers}
        status, problem, _ = self.ask("POST", "/api/session", {"username": name, "password": password}, **given)
        return status, problem.get("code", "")


class ServedTests(TestCase):
    def test_two_hundred_half_sent_requests_keep_nobody_waiting(self) -> None:
        server = Server(self)
        slow = []
        for _ in range(200):
            line = socket.create_connection(("127.0.0.1", server.port))
            self.addCleanup(line.close)
            line.sendall(HALF)
            slow.append(line)
        for _ in range(5):
            self.assertEqual(server.ask("GET", "/api/health")[0], 200)
        # The slow ones are all still in the middle of it, none refused: that is why they would hold threads elsewhere.
        for line in slow:
            line.setblocking(False)
            with self.assertRaises(BlockingIOError):
                line.recv(1)

    def test_a_body_over_the_limit_is_refused_in_the_apis_own_shape(self) -> None:
        self.assertEqual(Server(self).sign_in("x" * 3_000_000, "guess"), (413, "too_big"))

    def test_behind_the_named_proxy_each_visitor_is_locked_out_for_himself(self) -> None:
        server = Server(self, STILLTHREAD_PROXY="127.0.0.1")
        tries = [server.sign_in("angler", "wrong", **{"X-Forwarded-For": "198.51.100.1"})[0] for _ in range(9)]
        self.assertEqual((tries[0], tries[-1]), (401, 429))
        # What a visitor adds of his own stands before what the proxy says, and is not believed.
        spoofed = {"X-Forwarded-For": "203.0.113.9, 198.51.100.1"}
        self.assertEqual(server.sign_in("angler", "wrong", **spoofed)[0], 429)
        self.assertEqual(server.sign_in("angler", "wrong", **{"X-Forwarded-For": "198.51.100.2"})[0], 401)

    def test_without_a_named_proxy_nobody_is_believed(self) -> None:
        server = Server(self)
        tries = [server.sign_in("angler", "wrong", **{"X-Forwarded-For": f"198.51.100.{i}"})[0] for i in range(9)]
        self.assertEqual((tries[0], tries[-1]), (401, 429))

    def test_a_store_that_is_gone_damaged_or_old_is_told_of_and_not_as_a_fault_of_the_visitor(self) -> None:
        server = Server(self)
        self.assertEqual(server.ask("GET", "/api/health")[:2], (200, {"state": "well"}))
        with sqlite3.connect(server.store) as store:
            newest = "(SELECT max(name) FROM django_migrations WHERE app = 'days')"
            store.execute(f"DELETE FROM django_migrations WHERE app = 'days' AND name = {newest}")
        store.close()
        self.assertEqual(server.ask("GET", "/api/health")[1]["code"], "store_old")
        for path in server.store.parent.glob("log.sqlite3*"):
            path.unlink()
        status, problem, told = server.ask("GET", "/api/health")
        self.assertEqual((status, problem["code"], told["Retry-After"]), (503, "store_missing", "2"))
        for path in server.store.parent.glob("log.sqlite3*"):
            path.unlink()
        server.store.write_bytes(b"not a store at all" * 500)
        self.assertEqual(server.ask("GET", "/api/health")[1]["code"], "store_broken")
        signed_in = {"Cookie": "sessionid=abcdefghijklmnopqrstuvwxyz012345"}
        status, problem, _ = server.ask("GET", "/api/days", **signed_in)
        self.assertEqual((status, problem["code"]), (503, "store_broken"))


class SeveralTests(TestCase):
    """Two processes on one store, as behind a proxy that shares the work among them."""

    def two(self) -> tuple[Server, Server]:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        first = Server(self, STILLTHREAD_SHARED=folder.name)
        return first, Server(self, STILLTHREAD_SHARED=folder.name, STILLTHREAD_DB=str(first.store))

    def sign_up(self, server: Server) -> tuple[dict[str, str], dict[str, str]]:
        """Return the headers of the visitor who signed up, and of the one who is signed in."""
        _, _, told = server.ask("GET", "/api/session")
        token = told["Set-Cookie"].split("csrftoken=")[1].split(";")[0]
        given = {"Cookie": f"csrftoken={token}", "X-CSRFToken": token}
        status, _, told = server.ask("POST", "/api/people", SOMEONE, **given)
        self.assertEqual(status, 201)
        kept = dict(cookie.split(";")[0].split("=", 1) for cookie in told.get_all("Set-Cookie"))
        cookies = "; ".join(f"{name}={value}" for name, value in kept.items())
        return given, {"Cookie": cookies, "X-CSRFToken": kept["csrftoken"]}

    def test_what_both_are_asked_at_the_same_time_is_stored_once_and_never_more_than_may_be(self) -> None:
        both = self.two()
        _, signed_in = self.sign_up(both[0])
        lines = "".join(f"2023-{month:02d}-14,trout\n" for month in range(4, 10))
        water = {"name": "Mine", "latitude_deg": 61.2, "longitude_deg": 9.4}
        water_id = both[0].ask("POST", "/api/waters", water, **signed_in)[1]["id"]
        log = {"text": f"date,fish\n{lines}", "mapping": {"date": 0, "species": 1}, "water_id": water_id}
        token = {"password": SOMEONE["password"], "name": "A script", "scope": "read"}
        asked = [("/api/restores", {"size": 1000})] * 8 + [("/api/other-logs/takes", log)] * 6 + [("/api/tokens", token)] * 26

        def ask(i: int) -> tuple[str, int]:
            path, body = asked[i]
            return path, both[i % 2].ask("POST", path, body, **signed_in)[0]

        with ThreadPoolExecutor(8) as threads:
            answers = Counter(threads.map(ask, range(len(asked))))
        self.assertEqual({status for _, status in answers} - {200, 201, 409, 429, 503}, set(), answers)
        count = {
            path: both[1].ask("GET", f"{path}?limit=1", None, **signed_in)[1]["count"] for path in ("/api/days", "/api/tokens")
        }
        self.assertEqual(count["/api/days"], 6)
        self.assertEqual((count["/api/tokens"], answers["/api/tokens", 201]), (20, 20), answers)
        with sqlite3.connect(both[0].store) as store:
            waiting = store.execute("SELECT count(*) FROM keeping_restore").fetchone()[0]
        store.close()
        self.assertEqual(waiting, 1)

    def test_they_are_one_server_to_whoever_asks(self) -> None:
        first, second = self.two()
        given, signed_in = self.sign_up(first)
        # What one stored the other reads; who is signed in with one is so with the other, and signed out with both.
        fly = {"name": "Mine", "hook_size": 12}
        self.assertEqual(first.ask("POST", "/api/flies", fly, **signed_in)[0], 201)
        read = second.ask("GET", "/api/flies?limit=200", None, **signed_in)[1]
        self.assertIn("Mine", [one["name"] for one in read["items"]])
        self.assertEqual(second.ask("DELETE", "/api/session", None, **signed_in)[0], 204)
        self.assertEqual(first.ask("GET", "/api/flies", None, **signed_in)[0], 401)
        # They count together what one address asks: where one says that it is too much, so does the other.
        for _ in range(50):
            if first.ask("POST", "/api/people", SHORT, **given)[0] == 429:
                break
        self.assertEqual(second.ask("POST", "/api/people", SHORT, **given)[0], 429)
