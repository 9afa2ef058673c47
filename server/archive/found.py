"""What taking an archive in does, before it is done and after."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import asdict, dataclass, field
from typing import Any

from archive.reading import Fault

MOST_TOLD = 50


@dataclass
class Found:
    """What taking an archive in does: new, already here, here but different (what is here stays), refused and why."""

    username: str
    written_at: str
    new: Counter[str] = field(default_factory=Counter)
    same: Counter[str] = field(default_factory=Counter)
    differs: Counter[str] = field(default_factory=Counter)
    refused: int = 0
    faults: list[Fault] = field(default_factory=list)

    def refuse(self, faults: Iterable[Fault]) -> None:
        self.refused += 1
        self.faults += list(faults)[: max(0, MOST_TOLD - len(self.faults))]

    def shown(self) -> dict[str, Any]:
        kinds = sorted(self.new.keys() | self.same.keys() | self.differs.keys())
        rows = [{"kind": kind, "new": self.new[kind], "same": self.same[kind], "differs": self.differs[kind]} for kind in kinds]
        return {
            "username": self.username,
            "written_at": self.written_at,
            "rows": rows,
            "refused": self.refused,
            "faults": [asdict(fault) for fault in self.faults],
        }
