"""Every number that a room of the core holds says where it comes from: a source, the trade, ourselves, or its definition."""

from __future__ import annotations

import ast
import re
import unittest
from pathlib import Path

PACKAGE = Path(__file__).resolve().parents[1] / "stillthread"
SOURCES = PACKAGE.parents[1] / "docs" / "sources.md"
SAYS = re.compile(
    r"\bours\b|common[ -]practice|by definition|WMO Manual on Codes|fly-line mass standard|\bas [a-z]+-[a-z0-9-]+-\d{4}"
)
ELSEWHERE = {"ranges.py", "judgement.py", "trade/tables.py"}  # held by tests of their own, or written from other tables


def listed() -> set[str]:
    return set(re.findall(r"^\| `([a-z0-9-]+)` \|", SOURCES.read_text(), re.MULTILINE))


def numbers_in(node: ast.expr) -> bool:
    """Whether a value states a number that somebody has chosen: not a mere zero or one, nor the place of a thing."""
    return any(
        isinstance(one, ast.Constant) and type(one.value) in (int, float) and one.value not in (0, 1, 2, 0.0, 1.0)
        for one in ast.walk(node)
    )


def unsaid(path: Path) -> list[str]:
    """Return the constants of a module that state a number and not where it comes from."""
    text = path.read_text()
    lines, body = text.splitlines(), ast.parse(text).body
    keys, found = listed(), []
    for node, after in zip(body, [*body[1:], *([None] if body else [])], strict=True):
        target = node.targets[0] if isinstance(node, ast.Assign) else node.target if isinstance(node, ast.AnnAssign) else None
        value = getattr(node, "value", None)
        names = [one.id for one in (target.elts if isinstance(target, ast.Tuple) else [target]) if isinstance(one, ast.Name)]
        if value is None or not names or not all(name.lstrip("_").isupper() for name in names) or not numbers_in(value):
            continue
        if isinstance(value, ast.Call) and getattr(value.func, "id", "") == "Sourced":
            continue  # it refuses to be made without
        said = "\n".join(lines[_begins(lines, node.lineno) - 1 : node.end_lineno])
        if isinstance(after, ast.Expr) and isinstance(after.value, ast.Constant):
            said += str(after.value.value)
        docs = ast.get_docstring(ast.parse(text)) or ""
        if not SAYS.search(said) and not any(key in said for key in keys) and not SAYS.search(docs):
            found.append(f"{path.relative_to(PACKAGE)}:{node.lineno} {', '.join(names)}")
    return found


def _begins(lines: list[str], lineno: int) -> int:
    """Return where the comment above a line begins."""
    while lineno > 1 and lines[lineno - 2].startswith("#"):
        lineno -= 1
    return lineno


class ProvenanceTests(unittest.TestCase):
    def test_every_room_says_where_its_numbers_come_from(self) -> None:
        paths = [path for path in sorted(PACKAGE.rglob("*.py")) if str(path.relative_to(PACKAGE)) not in ELSEWHERE]
        self.assertGreater(len(paths), 100)
        self.assertEqual([one for path in paths for one in unsaid(path)], [])
