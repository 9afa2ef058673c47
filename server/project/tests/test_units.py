"""What ships for a server is run as it ships: each command of each unit where nothing can be written but what the unit names."""

from __future__ import annotations

import contextlib
import os
import re
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path

import numba
from django.conf import settings
from django.test import SimpleTestCase

from project.tests.stores import lay_store

DEPLOY = settings.ROOT_DIR / "deploy"
# Where a unit's folders lie on a server, by the setting that has systemd make them.
FOLDERS = {"StateDirectory": "/var/lib", "CacheDirectory": "/var/cache", "RuntimeDirectory": "/run"}
SHUT = """set -e
for at in {shut}; do mount --bind "$at" "$at"; mount -o remount,bind,ro "$at"; done
for at in {open}; do mount --bind "$at" "$at"; mount -o remount,bind,rw "$at"; done
cd {folder}
if touch {folder}/written 2>/dev/null; then echo "the source can be written" >&2; exit 99; fi
exec {command}
"""
LONG_S = 180.0


def may_unshare() -> bool:
    try:
        return subprocess.run(["unshare", "-rm", "true"], capture_output=True, check=False).returncode == 0
    except FileNotFoundError:
        return False


class Unit:
    """A unit file as it lies in deploy, on folders of this test in place of the server's."""

    def __init__(self, name: str, root: Path) -> None:
        self.text = (DEPLOY / name).read_text()
        self.root = root

    def all_of(self, key: str) -> list[str]:
        return re.findall(rf"^{key}=(.*)$", self.text, re.MULTILINE)

    def writable(self) -> list[Path]:
        named = [f"{at}/{one}" for key, at in FOLDERS.items() for line in self.all_of(key) for one in line.split()]
        named += [one for line in self.all_of("ReadWritePaths") for one in line.split()]
        return [self.here(one) for one in named]

    def here(self, path: str) -> Path:
        return self.root / path.lstrip("/")

    def environment(self, **more: str) -> dict[str, str]:
        lines = [line for line in (DEPLOY / "still-thread.env").read_text().splitlines() if line and not line.startswith("#")]
        said = dict(line.split("=", 1) for line in lines)
        said |= dict(one.split("=", 1) for one in self.all_of("Environment"))
        known = {name: str(self.here(value)) if value.startswith("/") else value for name, value in said.items()}
        secret = {"STILLTHREAD_SECRET_KEY": "a long random text for a test, and nothing else at all"}
        return {"PATH": os.environ["PATH"], "HOME": "/nonexistent", **known, **secret, **more}

    def begin(self, command: str, **more: str) -> subprocess.Popen[str]:
        """Begin a command of the unit, where it may write to its own folders alone."""
        program = command.replace("/srv/still-thread/.venv/bin/python", sys.executable)
        opened = self.writable()
        for folder in opened:
            folder.mkdir(parents=True, exist_ok=True)
        shut = dict.fromkeys(str(at) for at in (settings.ROOT_DIR, Path(tempfile.gettempdir()), self.root))
        script = SHUT.format(
            shut=" ".join(shut), open=" ".join(map(str, opened)), folder=settings.SERVER_DIR, command=program
        )  # fmt: skip
        return subprocess.Popen(
            ["unshare", "-rm", "sh", "-c", script], env=self.environment(**more), text=True,
            stdout=subprocess.PIPE, stderr=subprocess.STDOUT, start_new_session=True,
        )  # fmt: skip


@unittest.skipUnless(may_unshare(), "no mount namespace can be made here: the units are not run under their own protection")
class UnitTests(SimpleTestCase):
    store: Path
    shelf: str

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        # Not in the folder for temporary files, which the units do not share with anybody.
        cls.shelf = tempfile.mkdtemp(dir=settings.ROOT_DIR / "var")
        cls.addClassCleanup(shutil.rmtree, cls.shelf, ignore_errors=True)
        unit = Unit("still-thread-nightly.service", Path(cls.shelf))
        environment = unit.environment()
        cls.store = Path(environment["STILLTHREAD_DB"])
        cls.store.parent.mkdir(parents=True)
        lay_store(cls.store)

    def setUp(self) -> None:
        self.root = Path(tempfile.mkdtemp(dir=self.shelf))

    def unit(self, name: str) -> Unit:
        return Unit(name, self.root)

    def with_a_store(self, unit: Unit) -> None:
        at = Path(unit.environment()["STILLTHREAD_DB"])
        at.parent.mkdir(parents=True)
        shutil.copy(self.store, at)

    def ended(self, running: subprocess.Popen[str]) -> str:
        try:
            said, _ = running.communicate(timeout=LONG_S)
        except subprocess.TimeoutExpired:
            os.killpg(running.pid, signal.SIGKILL)
            said, _ = running.communicate()
            self.fail(f"it did not end: {said}")
        self.assertEqual(running.returncode, 0, said)
        return said

    def test_every_unit_has_the_folders_that_its_settings_name(self) -> None:
        for name in ("still-thread@.service", "still-thread-listener.service", "still-thread-nightly.service"):
            unit = self.unit(name)
            writable = set(unit.writable())
            for setting in ("STILLTHREAD_DB", "STILLTHREAD_KEPT", "STILLTHREAD_SHARED", "NUMBA_CACHE_DIR"):
                at = Path(unit.environment()[setting])
                with self.subTest(unit=name, setting=setting):
                    self.assertTrue(writable & {at, *at.parents}, f"{setting} can't be written by {name}")

    def test_the_nightly_copy_is_made_and_what_ran_out_goes(self) -> None:
        unit = self.unit("still-thread-nightly.service")
        self.with_a_store(unit)
        commands = unit.all_of("ExecStart")
        self.assertEqual(len(commands), 3)
        for command in commands:
            self.ended(unit.begin(command))
        copies = list(Path(unit.environment()["STILLTHREAD_BACKUPS"]).glob("*.sqlite3"))
        self.assertEqual(len(copies), 1)

    def test_the_listener_listens_and_ends_when_it_is_told_to(self) -> None:
        unit = self.unit("still-thread-listener.service")
        self.with_a_store(unit)
        running = unit.begin(unit.all_of("ExecStart")[0])
        assert running.stdout is not None
        self.assertEqual(running.stdout.readline(), "listening\n")
        os.killpg(running.pid, signal.SIGTERM)
        running.communicate(timeout=LONG_S)

    def test_a_process_serves(self) -> None:
        unit = self.unit("still-thread@.service")
        self.with_a_store(unit)
        kept = getattr(numba.config, "CACHE_DIR", "")
        if kept and Path(kept).is_dir():  # so that the simulator need not be compiled anew
            shutil.copytree(kept, unit.environment()["NUMBA_CACHE_DIR"], dirs_exist_ok=True)
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        running = unit.begin(unit.all_of("ExecStart")[0], STILLTHREAD_LISTEN=f"127.0.0.1:{port}")
        try:
            until = time.monotonic() + LONG_S
            answers = False
            while not answers and running.poll() is None and time.monotonic() < until:
                with socket.socket() as asked:
                    answers = asked.connect_ex(("127.0.0.1", port)) == 0
                time.sleep(0.2)
            with socket.create_connection(("127.0.0.1", port), timeout=LONG_S) as asked:
                asked.sendall(b"GET /api/live HTTP/1.0\r\nHost: club.example\r\nX-Forwarded-Proto: https\r\n\r\n")
                self.assertIn(b"alive", asked.makefile("rb").read())
        finally:
            with contextlib.suppress(ProcessLookupError):
                os.killpg(running.pid, signal.SIGTERM)
            said, _ = running.communicate(timeout=LONG_S)
            self.assertNotIn("Traceback", said)
