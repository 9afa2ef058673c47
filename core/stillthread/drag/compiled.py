"""How the simulator is compiled, and where its machine code is kept between starts.

The compiler notices when a file of its own changes, but not when a function that it inlined from another file does.
So the code is kept under a fingerprint of all the compiled files together.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
import shutil
import time
from pathlib import Path

import numba

_HERE = Path(__file__).parent
# All that lies here, in the simulator and in the lake is taken to be compiled: a file too many costs a compilation, one too few
# is wrong.
_ROOMS = (_HERE, _HERE.parent / "sinking", _HERE.parent / "lake")
_KEPT_S = 24 * 3600.0  # ours: for a day


def _fingerprint() -> str:
    digest = hashlib.sha256()
    for path in sorted(path for room in _ROOMS for path in room.glob("*.py")):
        digest.update(path.read_bytes())
    return digest.hexdigest()[:16]


def _forget_old(kept: Path, own: Path) -> None:
    """Remove machine code of earlier sources, unless another process may still be at it."""
    for old in kept.glob("compiled-*"):
        with contextlib.suppress(OSError):
            if old != own and time.time() - old.stat().st_mtime > _KEPT_S:
                shutil.rmtree(old)


def _place() -> Path | None:
    """Return where machine code can be kept; none where nothing can be written: then it is made anew at every start, when the
    simulator is first asked, and whoever does not ask it needs no such place."""
    named = os.environ.get("NUMBA_CACHE_DIR")
    if named:
        place = Path(named)
    else:
        kept = _HERE / "__pycache__"
        place = kept / f"compiled-{_fingerprint()}"
        _forget_old(kept, place)
    try:
        place.mkdir(parents=True, exist_ok=True)
    except OSError:
        return None
    return place if os.access(place, os.W_OK) else None


_own = _place()
if _own is not None:
    setattr(numba.config, "CACHE_DIR", str(_own))  # noqa: B010 - unknown to its types

_FAST = {"contract", "arcp", "nsz", "reassoc"}
compiled = numba.njit(cache=_own is not None, nogil=True, error_model="numpy", fastmath=_FAST)
# For the small functions of the innermost loop.
inlined = numba.njit(cache=_own is not None, nogil=True, error_model="numpy", fastmath=_FAST, inline="always")
