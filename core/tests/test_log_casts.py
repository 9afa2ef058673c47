"""Which casts a log holds, and for how long each was in the water."""

from __future__ import annotations

import unittest

from stillthread.log.casts import casts_of


class CastsTest(unittest.TestCase):
    def test_each_way_a_cast_ends(self) -> None:
        cases: list[tuple[list[tuple[str, float, float | None]], list[tuple[int, float]]]] = [
            ([("cast", 0.0, None), ("nothing", 60.0, 55.0)], [(0, 55.0)]),
            ([("cast", 0.0, None), ("nothing", 60.0, None)], [(0, 60.0)]),
            ([("cast", 0.0, None), ("cast", 30.0, None)], [(0, 30.0), (1, 80.0)]),  # the next cast
            ([("cast", 0.0, None), ("knock", 20.0, 20.0), ("take", 40.0, 40.0)], [(0, 40.0)]),  # a knock ends nothing
            ([("cast", 0.0, None), ("touched", 20.0, 20.0), ("seen", 30.0, None)], [(0, 80.0)]),  # fished out
            ([("cast", 0.0, None), ("landed", 400.0, None)], [(0, 80.0)]),  # in the net long after it was fished out
            ([("take", 5.0, 5.0)], []),
            ([("cast", 10.0, None), ("nothing", 5.0, None)], [(0, 0.0)]),  # a clock that was set back
        ]
        for logged, expected in cases:
            kinds, at, into = ([row[i] for row in logged] for i in range(3))
            with self.subTest(logged):
                self.assertEqual(casts_of(kinds, at, into, 80.0), expected)  # type: ignore[arg-type]
