"""What any route may answer besides its own: declared in the contract, in one place."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

_ANY = {400: "The request can't be read.", 503: "Busy, or the store can't be used: try again after Retry-After."}
_SIGNED_IN = {401: "Nobody is signed in.", 409: "Another person is signed in, or the name or id is taken."}
_CHANGES = {
    403: "The CSRF token is missing or wrong.",
    413: "The request is too large.",
    429: "Too many requests: try again after Retry-After.",
    507: "The server's disk is full; nothing was stored.",
}
_GIVEN = {422: "What was given is refused, with the fields at fault."}
PROBLEM = {"application/json": {"schema": {"$ref": "#/components/schemas/Problem"}}}


class DeclaredAPI(NinjaAPI):
    """An API whose contract tells every refusal of every route."""

    def get_openapi_schema(self, **how: Any) -> OpenAPISchema:
        schema = super().get_openapi_schema(**how)
        for operations in schema["paths"].values():
            for method, operation in operations.items():
                for status, words in _refusals(method, operation).items():
                    operation["responses"].setdefault(status, {"description": words, "content": PROBLEM})
        return schema


def _refusals(method: str, operation: dict[str, Any]) -> dict[int, str]:
    said = dict(_ANY)
    if operation.get("security"):
        said |= _SIGNED_IN
    if method != "get":
        said |= _CHANGES
    if method == "get" and operation["operationId"] == "get_health":
        said[429] = _CHANGES[429]
    if operation.get("parameters") or "requestBody" in operation:
        said |= _GIVEN
    return said
