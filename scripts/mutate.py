"""Put one fault at a time into the judgement's code, and count how many the core's tests find.

    .venv/bin/python scripts/mutate.py [--faults 150] [--seed 1]

A sample, seeded, of: a number half as large again (0 becomes 0.5), a comparison turned round, plus for minus and times for
divided, `and` for `or`, `max` for `min`. Faults are put into a copy of core/; the tests that are quick and near come first, the
plan's own and the rows of practice are asked of what survives them. Docstrings and words are left alone.
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
WHERE = ("plan", "food", "depth", "water/seasonal.py", "judgement.py")
QUICK = (
    "test_judgement",
    "test_match",
    "test_beam",
    "test_scorer",
    "test_where_they_feed",
    "test_food",
    "test_pinned",
    "test_belief",
    "test_options",
    "test_plan",
    "test_where_to_start",
    "test_build",
)
SLOW = ("test_choose", "test_ladder", "test_weigh", "test_addition", "test_against_lake_model", "test_profile",
        "test_practice_rows")  # fmt: skip
TURNED = {ast.Lt: ">=", ast.LtE: ">", ast.Gt: "<=", ast.GtE: "<", ast.Eq: "!=", ast.NotEq: "=="}
SWAPPED = {ast.Add: ("+", "-"), ast.Sub: ("-", "+"), ast.Mult: ("*", "/"), ast.Div: ("/", "*")}


@dataclass(frozen=True)
class Fault:
    """A change of one stretch of one line: `old` at `start` becomes `new`."""

    path: str
    line: int
    start: int
    old: str
    new: str


def faults_of(path: Path, name: str) -> list[Fault]:
    """Return every fault that can be put into a file."""
    text = path.read_text()
    lines, found = text.splitlines(), []

    def add(node: ast.expr, old: str, new: str, start: int | None = None, line: int | None = None) -> None:
        at, row = (node.col_offset if start is None else start), (node.lineno if line is None else line)
        if lines[row - 1].encode()[at : at + len(old)].decode(errors="ignore") == old:
            found.append(Fault(name, row, at, old, new))

    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.Constant) and isinstance(node.value, (int, float)) and not isinstance(node.value, bool):
            old = ast.get_source_segment(text, node) or ""
            if old:
                add(node, old, "0.5" if node.value == 0 else repr(node.value * 1.5))
        elif isinstance(node, ast.Compare) and len(node.ops) == 1 and type(node.ops[0]) in TURNED:
            left, right = node.left, node.comparators[0]
            if left.end_lineno == right.lineno:
                between = lines[right.lineno - 1][left.end_col_offset : right.col_offset]
                if between.strip() and between.strip()[0] in "<>=!":
                    add(node, between, f" {TURNED[type(node.ops[0])]} ", left.end_col_offset, right.lineno)
        elif isinstance(node, ast.BinOp) and type(node.op) in SWAPPED:
            old, new = SWAPPED[type(node.op)]
            if node.left.end_lineno == node.right.lineno:
                between = lines[node.right.lineno - 1][node.left.end_col_offset : node.right.col_offset]
                if between.strip() == old:
                    add(node, between, f" {new} ", node.left.end_col_offset, node.right.lineno)
        elif isinstance(node, ast.BoolOp):
            first, second = node.values[0], node.values[1]
            old, new = ("and", "or") if isinstance(node.op, ast.And) else ("or", "and")
            if (
                first.end_lineno == second.lineno
                and lines[second.lineno - 1][first.end_col_offset : second.col_offset].strip() == old
            ):
                add(node, f" {old} ", f" {new} ", first.end_col_offset, second.lineno)
        elif isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in {"min", "max"}:
            add(node.func, node.func.id, "max" if node.func.id == "min" else "min")
    return found


def survives(fault: Fault, copy: Path) -> bool:
    """Return whether every test passes with the fault in the copy."""
    path = copy / "stillthread" / fault.path
    text = path.read_text()
    lines = text.splitlines(keepends=True)
    row = lines[fault.line - 1].encode()
    lines[fault.line - 1] = (row[: fault.start] + fault.new.encode() + row[fault.start + len(fault.old.encode()) :]).decode()
    path.write_text("".join(lines))
    try:
        for tests in (QUICK, SLOW):
            names = [f"tests.{name}" for name in tests]
            ran = subprocess.run(
                [sys.executable, "-m", "unittest", "-f", *names], cwd=copy, capture_output=True, timeout=600, check=False,
                env={**os.environ, "PYTHONDONTWRITEBYTECODE": "1"},
            )  # fmt: skip
            if ran.returncode != 0:
                return False
        return True
    except subprocess.TimeoutExpired:
        return False
    finally:
        path.write_text(text)


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("--faults", type=int, default=150)
    parser.add_argument("--seed", type=int, default=1)
    asked = parser.parse_args()
    package = ROOT / "core" / "stillthread"
    paths = [
        p for where in WHERE for p in ([package / where] if where.endswith(".py") else sorted((package / where).rglob("*.py")))
    ]
    every = [fault for path in paths for fault in faults_of(path, str(path.relative_to(package)))]
    sample = random.Random(asked.seed).sample(every, min(asked.faults, len(every)))
    with tempfile.TemporaryDirectory() as folder:
        copies = []
        for k in range(2):
            shutil.copytree(ROOT / "core", Path(folder) / str(k) / "core", ignore=shutil.ignore_patterns("__pycache__"))
            shutil.copytree(ROOT / "docs", Path(folder) / str(k) / "docs", ignore=shutil.ignore_patterns("*.png"))
            shutil.copy(ROOT / "README.md", Path(folder) / str(k))
            copies.append(Path(folder) / str(k) / "core")

        def work(k: int) -> list[Fault]:
            alive = []
            for fault in sample[k::2]:
                if survives(fault, copies[k]):
                    alive.append(fault)
                    print(f"survives: {fault.path}:{fault.line} {fault.old.strip()!r} -> {fault.new.strip()!r}", flush=True)
            return alive

        with ThreadPoolExecutor(2) as pool:
            alive = [fault for part in pool.map(work, range(2)) for fault in part]
    killed = len(sample) - len(alive)
    print(f"{killed} of {len(sample)} faults found ({killed / len(sample):.0%}), of {len(every)} that can be put in")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
