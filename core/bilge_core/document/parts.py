"""What every part of the build document is made of."""

from __future__ import annotations

import unicodedata
from typing import Annotated

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, StringConstraints


class Part(BaseModel):
    """A part of the document: no unknown fields, no infinities, never changed in place."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, frozen=True)


_UNSEEN = {"Cc", "Cf", "Cs", "Co", "Cn", "Zl", "Zp"}
"""Unicode's categories of what shows nothing, turns the writing's direction, or breaks a line."""


def seen(text: str) -> str:
    r"""A name without what nobody sees: two that look alike are alike.

    Characters that join others (emoji, some scripts) go too: what is left still reads.

    >>> seen("Dun\u200blin \u202egnol\n 2")
    'Dunlin gnol 2'
    """
    if text.isascii() and text.isprintable():
        return " ".join(text.split())
    spaced = "".join(" " if letter in "\t\n\r" else letter for letter in text)
    kept = (letter for letter in spaced if unicodedata.category(letter) not in _UNSEEN)
    return " ".join("".join(kept).split())


def _seen_if_text(value: object) -> object:
    return seen(value) if isinstance(value, str) else value


Seen = BeforeValidator(_seen_if_text)
"""For every name that people give: see `seen`."""

Name = Annotated[str, StringConstraints(min_length=1, max_length=80), Seen]
Coordinate = Annotated[float, Field(ge=-3000, le=3000)]
Depth = Annotated[float, Field(ge=1, le=600)]
