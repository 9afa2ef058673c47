"""Tests of the core alone: no Django, no network."""
