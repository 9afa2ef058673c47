"""The tables behind the forms."""

from __future__ import annotations

from ninja import Schema

from advice.picture_schemas import SignOut


class RetrieveOut(Schema):
    key: str
    name: str
    mean_mps: float
    rhythm: str


class LineClassOut(Schema):
    """A kind of line; `has_tip` when only its front sinks."""

    key: str
    name: str
    label_sink_rate_mps: float
    has_tip: bool


class UsualWeightOut(Schema):
    length_m: float
    kg: float


class SpeciesOut(Schema):
    """`weights`: what well-fed fish weigh, by a published equation; none where there is no such."""

    key: str
    name: str
    best_low_c: float
    best_high_c: float
    stress_c: float
    limit_c: float
    weights: list[UsualWeightOut]


class FoodNameOut(Schema):
    key: str
    name: str


class MethodNameOut(Schema):
    key: str
    name: str


class MarkKindOut(Schema):
    key: str
    name: str


class SchoolOut(Schema):
    """A way of thinking, with what it believes in one line."""

    key: str
    name: str
    believes: str


class TradeOut(Schema):
    """The tables behind the forms: retrieves, lines, species, the counts of the ladder, food and its signs, kinds of mark."""

    retrieves: list[RetrieveOut]
    line_classes: list[LineClassOut]
    species: list[SpeciesOut]
    signs: list[SignOut]
    foods: list[FoodNameOut]
    mark_kinds: list[MarkKindOut]
    schools: list[SchoolOut]
    methods: list[MethodNameOut]
