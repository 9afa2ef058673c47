"""How the simulator is compiled, and where its machine code is kept between starts.

The compiler notices when a file of its own changes, but not when a function that it inlined from another file does.
So the code is kept under a fingerprint of all the compiled files together.
"""

from __future__ import annotations

import hashlib
import os
from pathlib import Path

import numba

_HERE = Path(__file__).parent
_COMPILED_FILES = ("compiled.py", "drag.py", "step.py", "chain.py")


def _fingerprint() -> str:
    digest = hashlib.sha256()
    for name in _COMPILED_FILES:
        digest.update((_HERE / name).read_bytes())
    return digest.hexdigest()[:16]


_kept = _HERE / "__pycache__"
# Where nothing can be written beside the sources, the compiler's own choice of place stands.
if "NUMBA_CACHE_DIR" not in os.environ and os.access(_kept if _kept.exists() else _HERE, os.W_OK):
    setattr(numba.config, "CACHE_DIR", str(_kept / f"compiled-{_fingerprint()}"))  # noqa: B010 - unknown to its types

_FAST = {"contract", "arcp", "nsz", "reassoc"}
compiled = numba.njit(cache=True, nogil=True, error_model="numpy", fastmath=_FAST)
# For the small functions of the innermost loop.
inlined = numba.njit(cache=True, nogil=True, error_model="numpy", fastmath=_FAST, inline="always")
