"""What Slosh asks, worked out or kept."""

from __future__ import annotations

import json
from typing import Literal

from accounts.models import Workshop
from bilge_core.forecast.settled import circuit_note, model_note
from bilge_core.pan import assemble_pan
from bilge_core.pan.sections import cut_pan
from bilge_core.settled import VERSION
from bilge_core.tell.drawing import SectionOut, drawing_out, section_out
from bilge_core.tell.settled import held_out, lap_out, rose_out, tilt_out
from bilge_core.tell.verdict import VerdictOut, no_lap
from builds.models import BuildState
from builds.selectors import build_of, state_of
from forecasts.kept import Parts, joined, kept
from forecasts.verdicts import forecast_over, keep_verdict
from loads.models import Lap
from loads.selectors import lap_of
from runs.selectors import over_laps, run_of


def _settled(state: BuildState, lap: Lap | None) -> dict[str, bytes]:
    """What the settled oil does: verdict, rose, held edges, pad table, and the lap if any."""

    def work_out() -> Parts:
        document = state.read
        over = lap_out(forecast_over(document, lap)) if lap is not None else None
        pan = assemble_pan(document)
        rose = rose_out(pan, document.car)
        parts = {
            "verdict": over.verdict if over else no_lap(),
            "rose": rose,
            "held": held_out(pan, document.car, rose),
            "tilt": tilt_out(pan, document.car, over),
        }
        return parts | ({"lap": over} if over else {})

    return kept("settled", state, lap, work_out)


def _drawing(state: BuildState) -> dict[str, bytes]:
    def work_out() -> Parts:
        document = state.read
        return {"drawing": drawing_out(assemble_pan(document), document)}

    return kept("drawing", state, None, work_out)


def _lap_json(lap: Lap, told: bytes) -> bytes:
    """A lap's forecast with which lap it is."""
    which = json.dumps({"lap_id": lap.pk, "lap_name": lap.name}).encode()
    return which[:-1] + b"," + told[1:]


def settled_over(state: BuildState, lap: Lap | None) -> bytes:
    """A state's pan with all that the settled oil does in it, over a lap if there is one, as JSON.

    Raises
    ------
    InvalidInput
        If the document no longer holds together.
    """
    return _told(state, lap, _settled(state, lap), b"[]")


def _told(state: BuildState, lap: Lap | None, settled: dict[str, bytes], over: bytes) -> bytes:
    """`over` is put in as it is: the verdicts over all laps, as JSON."""
    document = state.read
    return joined(
        {
            "state": str(state.number).encode(),
            "model": json.dumps(VERSION).encode(),
            "model_note": json.dumps(model_note(document)).encode(),
            "circuit_note": json.dumps(circuit_note(document)).encode(),
            **_drawing(state),
            **settled,
            "over": over,
            "lap": b"null" if lap is None else _lap_json(lap, settled["lap"]),
        }
    )


def slosh(workshop: Workshop, build_id: int) -> bytes:
    """A build as it stands over its lap, see `settled_over`; its verdict is kept.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    assert build.current is not None
    settled = _settled(build.current, build.lap)
    keep_verdict(build, build.lap, VerdictOut.model_validate_json(settled["verdict"]))
    over = ",".join(row.model_dump_json() for row in over_laps(build))
    return _told(build.current, build.lap, settled, f"[{over}]".encode())


def scene_of_run(workshop: Workshop, run_id: int) -> bytes:
    """The pan of a run and its lap in settled oil, as they were when it was asked for.

    Raises
    ------
    NotFound, InvalidInput
    """
    run = run_of(workshop, run_id)
    return settled_over(run.state, run.lap)


def other_lap(workshop: Workshop, build_id: int, lap_id: int) -> bytes:
    """The build as it stands over another lap of the workshop, to lay over the first.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    assert build.current is not None
    lap = lap_of(workshop, lap_id)
    return _lap_json(lap, _settled(build.current, lap)["lap"])


def section(
    workshop: Workshop, build_id: int, view: Literal["side", "front"], at_mm: float, state: int
) -> SectionOut:
    """A cut through a state of a build anywhere.

    Raises
    ------
    NotFound, InvalidInput
    """
    wanted = state_of(workshop, build_id, state)
    pan = assemble_pan(wanted.read)
    return section_out(cut_pan(pan, "y" if view == "side" else "x", at_mm * 1e-3))
