"""Write the core's tables of the trade for the page: `python scripts/trade_ts.py to.ts`."""

from __future__ import annotations

import json
import sys
from dataclasses import asdict
from pathlib import Path

from stillthread.trade import timing, usual
from stillthread.trade.entries import ENTRY_KINDS
from stillthread.trade.schools import SCHOOLS

HEAD = "/** Written by `make schema` from the core's tables of the trade. */\n"


def camel(name: str) -> str:
    first, *rest = name.lower().split("_")
    return first + "".join(word.capitalize() for word in rest)


def page() -> str:
    """Return the tables as TypeScript."""
    kinds = {
        key: {camel(name): value for name, value in asdict(kind).items() if name != "key"} for key, kind in ENTRY_KINDS.items()
    }
    schools = [
        {"key": one.key, "name": one.name, "believes": one.believes, "forPlan": one.for_plan} for one in SCHOOLS.values()
    ]
    numbers = {
        camel(name): float(value)
        for room in (usual, timing)
        for name, value in vars(room).items()
        if name.isupper() and hasattr(value, "unit")
    }
    tables = (("ENTRY_KINDS", kinds), ("SCHOOLS", schools), ("USUAL", numbers))
    return HEAD + "".join(
        f"export const {name} = {json.dumps(table, indent=2, ensure_ascii=False)} as const\n" for name, table in tables
    )


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(page())
