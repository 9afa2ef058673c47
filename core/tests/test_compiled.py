"""Where the simulator's machine code is kept, and what becomes of it where nothing can be written."""

from __future__ import annotations

import os
import subprocess
import sys
import unittest


class CompiledTests(unittest.TestCase):
    def test_the_core_is_imported_where_no_machine_code_can_be_kept(self) -> None:
        said = subprocess.run(
            [sys.executable, "-c", "import stillthread.sinking.cast; from stillthread.drag import compiled; print(compiled._own)"],
            env={**os.environ, "NUMBA_CACHE_DIR": "/proc/no-such-place"}, capture_output=True, text=True, check=False,
        )  # fmt: skip
        self.assertEqual((said.returncode, said.stdout), (0, "None\n"), said.stderr)
