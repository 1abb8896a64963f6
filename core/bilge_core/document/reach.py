"""Which part of the document each answer feels."""

from __future__ import annotations

from typing import Any


def felt_by_oil(document: dict[str, Any]) -> dict[str, Any]:
    """A document, as plain data, without what the oil in the pan cannot feel.

    Names and notes, what was poured and dipped, and what was looked at change no forecast.

    Examples
    --------
    >>> felt_by_oil({"name": "Dunlin", "pan": {"dipped": {}, "skirt_height_mm": 90.0}})
    {'pan': {'skirt_height_mm': 90.0}}
    """
    kept = {key: value for key, value in document.items() if key not in {"name", "notes"}}
    pan = {
        key: value
        for key, value in kept.get("pan", {}).items()
        if key not in {"dipped", "inspection"}
    }
    return {**kept, "pan": pan}
