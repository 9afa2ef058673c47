"""Keys of the core's tables of the trade, as the contract names them one by one."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from stillthread.api import ENTRY_KINDS, OUTCOMES, SCHOOLS, THOUGHT_OF

if TYPE_CHECKING:
    EntryKey = str
    OutcomeKey = str
    HappenedKey = str
    SchoolKey = str
    PlanSchoolKey = str
else:
    EntryKey = Literal[tuple(ENTRY_KINDS)]
    OutcomeKey = Literal[tuple(key for key in ENTRY_KINDS if key in OUTCOMES)]
    HappenedKey = Literal[(*THOUGHT_OF, "changed")]
    SchoolKey = Literal[tuple(SCHOOLS)]
    PlanSchoolKey = Literal[tuple(key for key, school in SCHOOLS.items() if school.for_plan)]
