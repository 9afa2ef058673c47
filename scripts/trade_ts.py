"""Write the core's tables of the trade for the page: `python scripts/trade_ts.py to.ts`."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

from stillthread.api import entry_kinds, schools, trade_numbers

HEAD = "/** Written by `make schema` from the core's tables of the trade. */\n"


def camel(name: str) -> str:
    first, *rest = name.lower().split("_")
    return first + "".join(word.capitalize() for word in rest)


def in_camel(row: dict[str, Any]) -> dict[str, Any]:
    return {camel(name): value for name, value in row.items()}


def page() -> str:
    """Return the tables as TypeScript."""
    tables = (
        ("ENTRY_KINDS", {key: in_camel(row) for key, row in entry_kinds().items()}),
        ("SCHOOLS", [in_camel(row) for row in schools()]),
        ("USUAL", in_camel(trade_numbers())),
    )
    return HEAD + "".join(
        f"export const {name} = {json.dumps(table, indent=2, ensure_ascii=False)} as const\n" for name, table in tables
    )


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(page())
