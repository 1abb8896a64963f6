"""What the track book told of the car: figures that nobody can measure on the bench."""

from __future__ import annotations

from pydantic import Field

from bilge_core.document.parts import Part

SURE = 2.0
"""Standard deviations of an uncertainty that is told: 19 chances in 20."""


class Found(Part):
    """A figure that was found, with how sure it is and by what."""

    value: float
    give: float = Field(ge=0, description="to each side, 19 chances in 20 within it")
    source: str = Field(min_length=1, max_length=200)


class UpTopMore(Found):
    """Oil up top beyond what the circuit's own parts hold, as it was poured [L]."""

    value: float = Field(ge=-5, le=10)


class Sealing(Found):
    """How far the pump slips on gas: oil that seals it at least, of what it sweeps [%]."""

    value: float = Field(ge=0.05, le=20)


class GaugeLag(Found):
    """How late the pressure sensor shows what the gallery has [s]."""

    value: float = Field(ge=0, le=2)


class Learned(Part):
    """What stands in place of guesses; what is not there is guessed still."""

    up_top_more_l: UpTopMore | None = None
    sealing_pct: Sealing | None = None
    gauge_lag_s: GaugeLag | None = None
