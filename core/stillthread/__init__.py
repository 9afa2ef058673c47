"""The decision core of Still Thread: all rules and arithmetic, in SI units, without interface or I/O.

`stillthread.api` is its face.
"""

__version__ = "0.1.0"
