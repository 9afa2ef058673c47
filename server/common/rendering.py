"""Answers as JSON, by a package that is quick with the long arrays of a run."""

from __future__ import annotations

from typing import Any

import orjson
from django.core.serializers.json import DjangoJSONEncoder
from django.http import HttpRequest
from ninja.renderers import BaseRenderer

_rest = DjangoJSONEncoder().default


class QuickJSON(BaseRenderer):
    """JSON in which moments, decimals and the like look as the framework writes them."""

    media_type = "application/json"

    def render(self, request: HttpRequest, data: Any, *, response_status: int) -> bytes:
        return orjson.dumps(data, default=_rest, option=orjson.OPT_PASSTHROUGH_DATETIME)
