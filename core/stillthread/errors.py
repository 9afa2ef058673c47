"""Named errors of the core: each has a stable `code` and carries its facts as attributes."""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.float64]


class StillthreadError(Exception):
    """Base of every error the core raises on purpose.

    `field` names the input at fault, as the caller spelled it, or is empty.
    """

    code = "stillthread_error"

    def __init__(self, message: str, *, field: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.field = field


class OutOfRange(StillthreadError):
    """A quantity lies outside the range that the rule or formula was made for."""

    code = "out_of_range"

    def __init__(self, field: str, value: float, low: float, high: float, unit: str, advice: str = "") -> None:
        self.value, self.low, self.high, self.unit = value, low, high, unit
        space = f" {unit}" if unit else ""
        text = f"{field} = {value:g}{space} lies outside {low:g} to {high:g}{space}."
        super().__init__(f"{text} {advice}".strip(), field=field)


class MissingReading(StillthreadError):
    """A computation needs a reading that was not given."""

    code = "missing_reading"


class BadInput(StillthreadError):
    """An input contradicts itself or another input."""

    code = "bad_input"


class BadFile(StillthreadError):
    """An uploaded text can't be read as what it claims to be; `line` is the 1-based line at fault, or 0."""

    code = "bad_file"

    def __init__(self, message: str, *, line: int = 0, field: str = "") -> None:
        super().__init__(message, field=field)
        self.line = line


class NoAnswer(StillthreadError):
    """The question is well posed, but the model has no sound answer to it."""

    code = "no_answer"


class OnIce(StillthreadError):
    """The water is frozen: nothing here is made for fishing through ice."""

    code = "on_ice"

    def __init__(self) -> None:
        super().__init__("Ice covers this water: no plan is made for it. Stay off ice you do not know; ask people on the spot.")


def check_range(field: str, value: float, low: float, high: float, unit: str, advice: str = "") -> float:
    """Return `value`, or raise `OutOfRange` when it is nan or outside [low, high]."""
    if not math.isfinite(value) or not low <= value <= high:
        raise OutOfRange(field, value, low, high, unit, advice)
    return value


def check_array(field: str, values: npt.ArrayLike, low: float, high: float, unit: str) -> FloatArray:
    """Return `values` as a float array, or raise `OutOfRange` naming the first value outside [low, high]."""
    array = np.asarray(values, dtype=np.float64)
    bad = ~((array >= low) & (array <= high))
    if bad.any():
        raise OutOfRange(field, float(array[bad].flat[0]), low, high, unit)
    return array
