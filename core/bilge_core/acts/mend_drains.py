"""What a check of drains or breathing offers to mend, as acts."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, get_args

from bilge_core.acts.drain_tuned import TuneDrain
from bilge_core.acts.figures import Figure, SetFigures
from bilge_core.acts.turbo import DrainTurbo, FeedTurbo
from bilge_core.document.build import Build
from bilge_core.document.circuit.dry_and_gas import Breather
from bilge_core.document.circuit.engine_side import Turbo
from bilge_core.document.circuit.falling import drain_runs
from bilge_core.document.circuit.joining import Restrictor
from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.document.circuit.run import Dash, Run
from bilge_core.rules import Check

_SIZES: tuple[Dash, ...] = get_args(Dash)
_BY_GRAVITY: Dash = FeedTurbo.model_fields["drain_dash"].default
_RESTRICTOR: float = FeedTurbo.model_fields["restrictor_mm"].default  # [mm]
_SMALLER, _LARGER = 0.8, 1.5  # of what is there, one step (ours)

DrainMend = SetFigures | TuneDrain | DrainTurbo


def _run(build: Build, check: Check) -> Run:
    return build.circuit.runs[int(check.field.rsplit(".", 1)[1])]


def _component(build: Build, check: Check) -> Any:
    return build.circuit.components[int(check.field.rsplit(".", 1)[1])]


def _drained(build: Build, run: Run) -> Turbo | None:
    part = build.circuit.component(run.start.component)
    return part if isinstance(part, Turbo) else None


def _figure(part: str, key: str, value: float) -> SetFigures:
    field = f"circuit.components.{part}.{key}"
    return SetFigures(kind="figures", figures=[Figure(field=field, value=round(value, 2))])


def _open_gasket(build: Build, check: Check) -> DrainMend | None:
    turbo = _drained(build, _run(build, check))
    if turbo is None or turbo.drain_bore_mm is None:
        return None
    return _figure(turbo.id, "gasket_mm", turbo.drain_bore_mm)


def _widen_drain(build: Build, check: Check) -> DrainMend | None:
    """All of one size: the widest there is, and a size more where they are alike already."""
    run = _run(build, check)
    sizes = [getattr(each.line, "dash", None) or 0 for each in drain_runs(build.circuit, run)]
    widest = max(sizes)
    if min(sizes) == widest and widest >= _BY_GRAVITY:
        widest = next((each for each in _SIZES if each > widest), 0)
    size = next((each for each in _SIZES if each >= max(widest, _BY_GRAVITY)), None)
    if size is None or (widest == 0 and sizes[0] != 0):
        return None
    return TuneDrain(kind="tune_drain", run=run.id, dash=size)


def _restrict_feed(build: Build, check: Check) -> DrainMend | None:
    """Two millimetres, or a step less than what is there."""
    circuit = build.circuit
    if check.field.startswith("circuit.components"):
        turbo = _component(build, check)
        run = next((r for r in circuit.runs if r.start.component == turbo.id), None)
    else:
        run = _run(build, check)
        turbo = _drained(build, run)
    if turbo is None or run is None or not isinstance(turbo, Turbo):
        return None
    feed = next((each for each in circuit.runs if each.end.component == turbo.id), None)
    hole = None if feed is None else circuit.component(feed.start.component)
    bore = _RESTRICTOR
    if isinstance(hole, Restrictor) and hole.bore_mm <= _RESTRICTOR:
        bore = round(hole.bore_mm * _SMALLER, 1)
    return TuneDrain(kind="tune_drain", run=run.id, restrictor_mm=bore)


def _widen_breather(build: Build, check: Check) -> DrainMend | None:
    breather = next(iter(build.circuit.of_kind(Breather)), None)
    if breather is None or breather.opening_mm is None:
        return None
    return _figure(breather.id, "opening_mm", breather.opening_mm * _LARGER)


def _larger_stage(build: Build, check: Check) -> DrainMend | None:
    part = _component(build, check)
    if not isinstance(part, ScavengeStage):
        return None
    return _figure(part.id, "displacement_cm3", part.displacement_cm3 * _LARGER)


def _own_stage(build: Build, check: Check) -> DrainMend | None:
    """The last turbo that comes to a shared stage gets one as large for itself."""
    stage = _component(build, check)
    for run in reversed(build.circuit.runs):
        turbo = _drained(build, run)
        if turbo is None or run.start.port != "drain":
            continue
        if drain_runs(build.circuit, run)[-1].end.component == stage.id:
            return DrainTurbo(
                kind="drain_turbo", turbo=turbo.id, how="scavenged",
                dash=getattr(run.line, "dash", None) or _BY_GRAVITY,
                displacement_cm3=stage.displacement_cm3, drive_ratio=stage.drive_ratio,
            )  # fmt: skip
    return None


DRAIN_MENDS: Mapping[str, Callable[[Build, Check], DrainMend | None]] = {
    "open_gasket": _open_gasket,
    "widen_drain": _widen_drain,
    "restrict_feed": _restrict_feed,
    "widen_breather": _widen_breather,
    "larger_stage": _larger_stage,
    "own_stage": _own_stage,
}
"""By what a rule says mends it; None where nothing of the build can be set so."""
