"""The decision core of Still Thread: all rules and arithmetic, in SI units, without interface or I/O."""
