"""What the track book told of the car, taken over into what is known of it."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, build_with
from bilge_core.acts.plumbing import refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.calibration import known_by
from bilge_core.document.circuit.engine_side import Gallery
from bilge_core.document.learned import Found, GaugeLag, Learned, Sealing, UpTopMore
from bilge_core.network.conditions import bearings_let


class BearingsFound(Found):
    """What the bearings let through, of what they were thought to [%]."""

    value: float = Field(ge=5, le=500)


LearnedKey = Literal["up_top_more_l", "sealing_pct", "gauge_lag_s"]


class Learn(Act):
    """Figures that dips in a logged lap, or a hold-up trial, told; the rest stays as it is."""

    kind: Literal["learn"]
    source: str = Field(min_length=1, max_length=200)
    up_top_more_l: UpTopMore | None = None
    sealing_pct: Sealing | None = None
    gauge_lag_s: GaugeLag | None = None
    bearings_pct: BearingsFound | None = None
    forget: list[LearnedKey] = Field(default=[], max_length=3, description="guessed again")

    @override
    def done(self, build: Build) -> Done:
        found: dict[str, Any] = {
            key: value for key in _WORDS if (value := getattr(self, key)) is not None
        }
        if not found and not self.forget and self.bearings_pct is None:
            raise refused("source", "tells of nothing: give at least one figure that was found")
        made, words = build, []
        if found or self.forget:
            nothing: dict[str, Any] = dict.fromkeys(self.forget)
            known = (build.learned or Learned()).model_copy(update={**nothing, **found})
            is_left = any(getattr(known, key) is not None for key in _WORDS)
            made = made.model_copy(update={"learned": known if is_left else None})
            words = [_WORDS[key].format(value.value, value.give) for key, value in found.items()]
            words += [f"{_NAMES[key]} is guessed again" for key in self.forget]
        if self.bearings_pct is not None:
            made = self._with_bearings(made, self.bearings_pct)
            words.append(
                f"bearings let through {self.bearings_pct.value:.0f} % of what was thought"
            )
        made = build_with(build, made.model_dump(mode="json"))  # is there oil left in its pan?
        return Done(made, f"learned: {', '.join(words)}; {self.source}")

    def _with_bearings(self, build: Build, found: BearingsFound) -> Build:
        scaled = bearings_let(build, found.value / 100.0)
        circuit = scaled.circuit
        told = {
            "uncertainty_pct": min(100.0, round(100.0 * found.give / found.value, 1)),
            "source": found.source,
            "circuit": known_by(circuit.model_dump(mode="json")),
        }
        parts = [
            each.model_copy(update={"bearings": each.bearings.model_copy(update=told)})
            if isinstance(each, Gallery) and each.bearings is not None
            else each
            for each in circuit.components
        ]
        return scaled.model_copy(
            update={"circuit": circuit.model_copy(update={"components": parts})}
        )


_WORDS: dict[str, str] = {
    "up_top_more_l": "{0:+.2f} ± {1:.2f} L up top",
    "sealing_pct": "the pump slips on gas under {0:.1f} ± {1:.1f} % of oil",
    "gauge_lag_s": "gauge {0:.2f} ± {1:.2f} s late",
}
_NAMES: dict[str, str] = {
    "up_top_more_l": "oil up top",
    "sealing_pct": "the pump's slip on gas",
    "gauge_lag_s": "the gauge's lag",
}
