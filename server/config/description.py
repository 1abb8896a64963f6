"""The API's description, with the refusals that every call may answer with."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI

from config.problems import ProblemOut

REFUSALS = {
    400: "The request cannot be read.",
    401: "Nobody is signed in, or name and password do not belong together.",
    403: "The page's token is missing or old, or it is somebody else's to decide.",
    404: "There is no such thing in this workshop.",
    408: "The request took too long to come.",
    409: "It has changed since, or is still needed; nothing was lost.",
    413: "The body is too large.",
    422: "Something in it is not right: which field, and what would be right.",
    429: "Too many attempts, or too many members or invitations; wait.",
    503: "The database does not answer just now.",
    507: "No room is left on the disk.",
}

_REFERENCE = "#/components/schemas/ProblemOut"


def _may_answer(path: str, method: str, operation: dict[str, Any]) -> list[int]:
    writes, has_body = method != "get", "requestBody" in operation
    rules = {
        400: True,
        401: bool(operation.get("security")) or path.startswith("/api/session"),
        403: writes,
        404: "{" in path or has_body or path.endswith("/authority"),
        408: has_body,
        409: writes,
        413: writes,
        422: has_body or bool(operation.get("parameters")),
        429: path.startswith("/api/session"),
        503: True,
        507: writes,
    }
    return [status for status, may in rules.items() if may]


class DescribedApi(NinjaAPI):
    """An API whose description holds its refusals too."""

    def get_openapi_schema(self, **options: Any) -> Any:
        """The description."""
        described = super().get_openapi_schema(**options)
        schema = ProblemOut.model_json_schema(ref_template="#/components/schemas/{model}")
        schemas = described["components"]["schemas"]
        schemas.update(schema.pop("$defs", {}))
        schemas["ProblemOut"] = schema
        for path, methods in described["paths"].items():
            for method, operation in methods.items():
                for status in _may_answer(path, method, operation):
                    operation["responses"][status] = {
                        "description": REFUSALS[status],
                        "content": {"application/problem+json": {"schema": {"$ref": _REFERENCE}}},
                    }
        return described
