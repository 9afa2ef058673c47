"""What everybody in the trade takes for granted, each thing once: kinds of entry in a log, schools of thought, how long a
way to fish takes, usual values and thresholds.

Standard library alone, since a device runs it too; `make schema` writes the same tables for the page.
"""
