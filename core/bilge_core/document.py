"""What every part of the build document is made of."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints


class Part(BaseModel):
    """A part of the document: no unknown fields, no infinities, never changed in place."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, frozen=True)


Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
Coordinate = Annotated[float, Field(ge=-3000, le=3000)]
Depth = Annotated[float, Field(ge=1, le=600)]
