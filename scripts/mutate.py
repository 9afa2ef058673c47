"""Put one fault at a time into the code, and count how many the tests of its room find; write docs/mutants.md.

    .venv/bin/python scripts/mutate.py [--faults 8] [--seed 1] [--room search] [--room days]

A sample of each room, seeded, of: a number half as large again (0 becomes 0.5), a comparison turned round, plus for minus and
times for divided, `and` for `or`, `max` for `min`. Faults are put into a copy; the tests that are quick and near come first,
the slower ones are asked of what survives them. Docstrings and words are left alone, and so are bounds: a file may be larger.
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
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
PLAN = (
    "test_scorer",
    "test_match",
    "test_beam",
    "test_options",
    "test_plan",
    "test_pinned",
    "test_weigh",
    "test_choose",
    "test_ladder",
)


@dataclass(frozen=True)
class Room:
    """Where faults are put in, and the tests that are asked, a step after the other: modules of core/tests, or apps."""

    folder: str
    steps: tuple[tuple[str, ...], ...]
    app: bool = False


def core(room: str, *steps: Sequence[str]) -> Room:
    return Room(f"core/stillthread/{room}", tuple(map(tuple, steps)))


def app(name: str, *more: str) -> Room:
    return Room(f"server/{name}", ((name, *more),), app=True)


ROOMS = {
    "trade": core("trade", ("test_trade", "test_fish_in_hand", "test_ladder")),
    "search": core("search", ("test_trade", "test_search", "test_search_twice", "test_practice_day")),
    "practice": core("practice", ("test_practice_day",)),
    "plan": core("plan", PLAN, ("test_addition", "test_extending", "test_practice_rows")),
    "depth": core("depth", ("test_belief", "test_where_they_feed", "test_assumed", "test_where_to_start", "test_pinned"),
                  ("test_choose", "test_practice_rows")),
    "food": core("food", ("test_food", "test_extending", "test_match"), ("test_pinned", "test_practice_rows")),
    "water": core("water", ("test_profile", "test_stratification", "test_measured_water", "test_water_properties"),
                  ("test_assumed", "test_against_lake_model", "test_pinned")),
    "weather": core("weather", ("test_wind_effects", "test_light_wind_sun", "test_against_almanac"), ("test_pinned",)),
    "tackle": core("tackle", ("test_tackle", "test_build", "test_box_csv", "test_practice"), ("test_pinned",)),
    "sinking": core("sinking", ("test_cast", "test_chain", "test_across", "test_shapes", "test_options"),
                    ("test_practice", "test_varied", "test_pinned", "test_weigh")),
    "drag": core("drag", ("test_drag", "test_cast"), ("test_shapes",)),
    "chart": core("chart", ("test_chart", "test_where_to_start", "test_coordinates")),
    "formats": core("formats", ("test_chart_formats", "test_log_csv", "test_box_csv", "test_profile_csv", "test_forecast_json",
                                "test_calendar")),
    "learn": core("learn", ("test_learn_rates", "test_learn_lean", "test_learn_lines", "test_learn_audit")),
    "log": core("log", ("test_log_casts", "test_log_clocks", "test_log_depths", "test_fish_in_hand")),
    "rules": core("rules", ("test_water_rules", "test_wind_effects", "test_cast")),
    "accounts": app("accounts"), "advice": app("advice"), "archive": app("archive"), "box": app("box"), "days": app("days"),
    "instruments": app("instruments"), "lookback": app("lookback"), "waters": app("waters"),
}  # fmt: skip
BOUND = ("MOST_", "LARGEST", "LONGEST", "_KEPT", "EARLIEST", "FARTHEST", "Annotated[", "throttle", "AtMost", "max_length")
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
    bounds = {i for i, line in enumerate(lines, 1) if any(word in line for word in BOUND)}

    def add(node: ast.expr, old: str, new: str, start: int | None = None, line: int | None = None) -> None:
        at, row = (node.col_offset if start is None else start), (node.lineno if line is None else line)
        if row in bounds:
            return
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


def asked_of(room: Room, copy: Path, tests: Sequence[str]) -> int:
    """Return how the tests of a step end in a copy."""
    quiet = {**os.environ, "PYTHONDONTWRITEBYTECODE": "1", "STILLTHREAD_LOCAL": "1"}
    if room.app:
        run = [sys.executable, "server/manage.py", "test", "--no-input", "--failfast", *tests]
        return subprocess.run(
            run, cwd=copy, capture_output=True, timeout=600, check=False, env={**quiet, "PYTHONPATH": str(copy / "core")}
        ).returncode
    run = [sys.executable, "-m", "unittest", "-f", *(f"tests.{name}" for name in tests)]
    return subprocess.run(run, cwd=copy / "core", capture_output=True, timeout=600, check=False, env=quiet).returncode


def survives(room: Room, fault: Fault, copy: Path) -> bool:
    """Return whether every test passes with the fault in the copy."""
    path = copy / fault.path
    text = path.read_text()
    lines = text.splitlines(keepends=True)
    row = lines[fault.line - 1].encode()
    lines[fault.line - 1] = (row[: fault.start] + fault.new.encode() + row[fault.start + len(fault.old.encode()) :]).decode()
    path.write_text("".join(lines))
    try:
        return all(asked_of(room, copy, tests) == 0 for tests in room.steps)
    except subprocess.TimeoutExpired:
        return False
    finally:
        path.write_text(text)


def sampled(room: Room, most: int, seed: int) -> list[Fault]:
    """Return a sample of the faults of a room."""
    paths = [
        path
        for path in sorted((ROOT / room.folder).rglob("*.py"))
        if not {"tests", "migrations", "management"} & set(path.relative_to(ROOT).parts)
        and path.name not in {"models.py", "apps.py", "api.py"} and "schemas" not in path.name and "tables" not in path.name
    ]  # fmt: skip
    every = [fault for path in paths for fault in faults_of(path, str(path.relative_to(ROOT)))]
    return random.Random(seed).sample(every, min(most, len(every)))


def copied(folder: Path) -> Path:
    """Return a copy of what the tests need."""
    for name in ("core", "server", "docs", "scripts"):
        shutil.copytree(ROOT / name, folder / name, ignore=shutil.ignore_patterns("__pycache__", "*.png", ".mypy_cache"))
    shutil.copytree(ROOT / "web", folder / "web", ignore=shutil.ignore_patterns("node_modules"))
    shutil.copy(ROOT / "README.md", folder)
    (folder / "var").mkdir()
    return folder


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("--faults", type=int, default=8, help="of each room")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--room", action="append", choices=sorted(ROOMS))
    asked = parser.parse_args()
    jobs = [(name, fault) for name in asked.room or ROOMS for fault in sampled(ROOMS[name], asked.faults, asked.seed)]
    with tempfile.TemporaryDirectory() as folder:
        copies = [copied(Path(folder) / str(k)) for k in range(2)]

        def work(k: int) -> list[tuple[str, Fault]]:
            alive = []
            for name, fault in jobs[k::2]:
                if survives(ROOMS[name], fault, copies[k]):
                    alive.append((name, fault))
                    print(f"survives: {fault.path}:{fault.line} {fault.old.strip()!r} -> {fault.new.strip()!r}", flush=True)
            return alive

        with ThreadPoolExecutor(2) as pool:
            alive = [one for part in pool.map(work, range(2)) for one in part]
    rows = [(name, sum(n == name for n, _ in jobs), sum(n == name for n, _ in alive)) for name in asked.room or ROOMS]
    for name, put_in, left in rows:
        print(f"{name:12} {put_in - left} of {put_in}")
    print(f"{len(jobs) - len(alive)} of {len(jobs)} faults found ({1.0 - len(alive) / len(jobs):.0%})")
    if asked.room is None:
        _write(rows, alive, asked.seed)
    return 0


def _write(rows: Sequence[tuple[str, int, int]], alive: Sequence[tuple[str, Fault]], seed: int) -> None:
    put_in, left = sum(row[1] for row in rows), sum(row[2] for row in rows)
    lines = [
        "# Faults that the tests find",
        "",
        "Written by `scripts/mutate.py`: a sample of small faults, put in one at a time, and how many of them the tests of the",
        f"room find. Seed {seed}; {put_in - left} of {put_in} found ({1.0 - left / put_in:.0%}). Bounds are left out.",
        "",
        "| room | put in | found |",
        "|---|---|---|",
        *(f"| {name} | {many} | {many - lived} |" for name, many, lived in rows),
        "",
        "Those that lived:",
        "",
        *(f"- `{fault.path}:{fault.line}` `{fault.old.strip()}` became `{fault.new.strip()}`" for _, fault in alive),
    ]
    (ROOT / "docs/mutants.md").write_text("\n".join(lines) + "\n")


if __name__ == "__main__":
    raise SystemExit(main())
