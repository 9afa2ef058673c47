"""The core imports no web framework and does no I/O; every source it names is listed; its examples run."""

from __future__ import annotations

import ast
import doctest
import importlib
import importlib.metadata
import pkgutil
import re
import subprocess
import sys
import unittest
from pathlib import Path

import stillthread
from stillthread import api

PACKAGE = Path(stillthread.__file__).parent
SOURCES = PACKAGE.parents[1] / "docs" / "sources.md"
ALLOWED = {
    "stillthread",
    "numpy",
    "numba",
    "astral",
    "shapely",
    "pyproj",
    "gpxpy",
    "pynmea2",
    "icalendar",
    "dateutil",
    "lazy_loader",
} | set(sys.stdlib_module_names)
FORBIDDEN = {"django", "ninja", "socket", "urllib", "http", "sqlite3", "subprocess"}
OWN_KEYS = {"ours", "common-practice"}


def modules() -> list[str]:
    return [name for _, name, _ in pkgutil.walk_packages([str(PACKAGE)], "stillthread.")]


class ArchitectureTests(unittest.TestCase):
    def test_every_import_is_one_the_core_may_make(self) -> None:
        for path in PACKAGE.rglob("*.py"):
            for node in ast.walk(ast.parse(path.read_text())):
                names: list[str] = []
                if isinstance(node, ast.Import):
                    names = [alias.name for alias in node.names]
                elif isinstance(node, ast.ImportFrom):
                    names = [node.module or ""]
                for name in names:
                    root = name.split(".")[0]
                    self.assertIn(root, ALLOWED, f"{path.name} imports {name}")
                    self.assertNotIn(root, FORBIDDEN, f"{path.name} imports {name}")

    def test_the_core_imports_with_no_web_framework_on_the_machine(self) -> None:
        script = "import sys; sys.modules.update(django=None, ninja=None)\n" + "".join(f"import {m}\n" for m in modules())
        done = subprocess.run([sys.executable, "-c", script], cwd=PACKAGE.parent, capture_output=True, text=True, check=False)
        self.assertEqual((done.returncode, done.stderr), (0, ""))

    def test_every_example_prints_what_it_says(self) -> None:
        ran = 0
        for name in modules():
            outcome = doctest.testmod(importlib.import_module(name))
            self.assertEqual(outcome.failed, 0, name)
            ran += outcome.attempted
        self.assertGreater(ran, 15)

    def test_every_name_of_the_face_is_there_and_the_version_is_the_installed_one(self) -> None:
        names = dir(api)
        self.assertGreater(len(names), 300)
        self.assertEqual([name for name in names if not hasattr(api, name)], [])
        self.assertEqual(stillthread.__version__, importlib.metadata.version("stillthread"))

    def test_the_face_loads_no_simulator_for_one_who_only_keeps_a_log(self) -> None:
        script = "import sys; from stillthread.api import ENTRY_KINDS, is_odd; print('numba' in sys.modules)"
        done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True, cwd=PACKAGE.parent)
        self.assertEqual(done.stdout.strip(), "False")

    def test_scripts_know_the_core_by_its_face_alone(self) -> None:
        # The server is held to it by its own import contract.
        inside = {"fit_judgement.py"}  # it turns the inside of the plan
        scripts = [path for path in (PACKAGE.parents[1] / "scripts").glob("*.py") if path.name not in inside]
        found = [
            path.name for path in scripts if re.search(r"^\s*(?:from|import) stillthread\.(?!api\b)", path.read_text(), re.M)
        ]
        self.assertEqual(found, [])

    def test_the_readmes_example_prints_what_it_says(self) -> None:
        outcome = doctest.testfile(str(PACKAGE.parents[1] / "README.md"), module_relative=False)
        self.assertEqual(outcome.failed, 0)
        self.assertGreater(outcome.attempted, 5)

    def test_sources_named_in_the_code_and_listed_in_the_docs_are_the_same(self) -> None:
        text = "\n".join(path.read_text() for path in PACKAGE.rglob("*.py"))
        named = set(re.findall(r"\b([a-z]+(?:-[a-z]+)*-(?:4500-o|\d{4}|viscous|sr6-08))\b", text))
        listed = set(re.findall(r"^\| `([a-z0-9-]+)` \|", SOURCES.read_text(), re.MULTILINE)) - OWN_KEYS
        tests = "\n".join(path.read_text() for path in Path(__file__).parent.glob("*.py"))
        self.assertEqual(named - listed, set())
        self.assertEqual({key for key in listed if key not in text and key not in tests}, set())
