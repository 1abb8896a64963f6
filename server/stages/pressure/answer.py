"""What Pressure asks, worked out or kept."""

from __future__ import annotations

import json

import numpy as np
from accounts.models import Workshop
from bilge_core.acts.bottle_tuned import TuneAccumulator
from bilge_core.cooling.engine import Conditions
from bilge_core.document.build import Build as BuildDocument
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.forecast.alone import swings
from bilge_core.forecast.bottle import drunk
from bilge_core.forecast.bottle_map import bottle_map
from bilge_core.forecast.on_record import circuit_lap, in_pan
from bilge_core.network import network_of
from bilge_core.physics.celsius import ZERO_CELSIUS
from bilge_core.tell.alone import GuessesOut, guesses_out
from bilge_core.tell.bottle import (
    BottleMapOut,
    TrialOut,
    bottle_line_out,
    bottle_map_out,
    bottle_out,
    other_check,
    stopped_out,
    trial_out,
    tried,
)
from bilge_core.tell.circuit_lap import circuit_lap_out, layout_out
from bilge_core.tell.supply import (
    CoolingOut,
    SupplyOut,
    cooling_out,
    measured_share,
    supply_out,
)
from builds.models import Build
from builds.selectors import build_of, document_of
from forecasts.kept import Parts, joined, kept
from loads.services import corners_of, log_of
from pydantic import BaseModel
from runs.selectors import figures_kept

from stages.pressure.basis import Basis, basis_of
from stages.pressure.schemas import BasisOut, MapIn, Stint, Supply

_SIZES, _CHARGES = 10, 20
"""Cells of a map."""
_LEAST_L, _LEAST_BAR = 0.5, 0.2  # of a bottle worth mapping (ours)


def _name(basis: Basis) -> str:
    run = basis.run
    if run is None:
        return ""
    named = getattr(run.state, "revision", None)
    return f"R{named.number}" if named else f"state {run.state.number}"


def basis_out(basis: Basis) -> BasisOut:
    """What figures rest on, in words that stand beside them."""
    name, far = _name(basis), basis.apart
    words = {
        "own": "Its own run in moving oil.",
        "preview": f"A preview on the run of {name}: same pan, nearly the same draw. "
        "Its own run is to come; until then nothing is said to hold.",
        "settled": "On settled oil, which knows no waves: a first look until a run in moving oil "
        "is finished.",
        "steady": "No lap: level and steady at the usual running speed.",
    }[basis.kind]
    return BasisOut(
        kind=basis.kind,
        run_id=None if basis.run is None else basis.run.pk,
        run_name=name,
        words=words,
        oil_apart_l=None if far is None else round(far.oil * 1e3, 3),
        draw_apart_l_min=None if far is None else round(far.draw * 60e3, 2),
    )


def _lap(build: Build, document: BuildDocument, basis: Basis) -> dict[str, bytes]:
    """The circuit over the lap, kept for the next who asks."""
    assert build.current is not None

    def work_out() -> Parts:
        on = basis.on
        lap = circuit_lap(document, on.log, on.record, on.corners)
        told = circuit_lap_out(lap, in_pan(document, lap))
        pressure = told.pressure
        if basis.kind == "own" and basis.run is not None:
            pressure = figures_kept(basis.run).pressure or pressure
        parts: dict[str, BaseModel] = {"pressure": pressure, "whole": told}
        besides = {
            "bottle": bottle_out(document, lap, on.corners),
            "other_check": other_check(document, on.log, on.record, on.corners),
        }
        return parts | {name: each for name, each in besides.items() if each is not None}

    return kept("moving", build.current, build.lap, work_out, b"pressure 2", basis.known_by)


def pressure(workshop: Workshop, build_id: int) -> bytes:
    """A build's circuit as it stands, over its lap, on the best record there is.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    assert build.current is not None
    document = document_of(build)
    basis = basis_of(build)
    parts = _lap(build, document, basis)
    whole = json.loads(parts["whole"])
    stop = stopped_out(document)  # feels the oil's mark, which no run does
    network = network_of(document)
    bottle = json.loads(parts.get("bottle", b"null"))
    if bottle is not None:
        bottle["line"] = bottle_line_out(document, network).model_dump(mode="json")
    return joined(
        {
            "state": str(build.current.number).encode(),
            "basis": basis_out(basis).model_dump_json().encode(),
            "layout": layout_out(document, network).model_dump_json().encode(),
            "pressure": parts["pressure"],
            "samples": json.dumps(whole["samples"]).encode(),
            "in_pan_l": json.dumps(whole["in_pan_l"]).encode(),
            "duration_s": json.dumps(round(basis.lasts, 3)).encode(),
            "bottle": json.dumps(bottle).encode(),
            "other_check": parts.get("other_check", b"null"),
            "stopped": b"null" if stop is None else stop.model_dump_json().encode(),
        }
    )


def trial(workshop: Workshop, build_id: int, act: TuneAccumulator) -> TrialOut:
    """An accumulator tried over the lap.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    return trial_out(document_of(build), act, basis_of(build).on)


def mapped(workshop: Workshop, build_id: int, wanted: MapIn) -> BottleMapOut:
    """The lowest gallery pressure of the lap over size and pre-charge of the bottle.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    assert build.current is not None
    document, basis = document_of(build), basis_of(build)
    on = basis.on
    _, done = tried(document, TuneAccumulator(kind="tune_accumulator", volume_l=2.0))
    volumes = np.linspace(_LEAST_L, wanted.most_l, _SIZES) * 1e-3
    charges = np.linspace(_LEAST_BAR, wanted.most_bar, _CHARGES) * 1e5

    def work_out() -> Parts:
        found = bottle_map(
            done.build, on.log, on.record, on.corners, volumes.tolist(), charges.tolist()
        )
        return {"map": bottle_map_out(found)}

    reach = f"map {volumes.tolist()} {charges.tolist()}".encode()
    told = kept("moving", build.current, build.lap, work_out, reach, basis.known_by)
    return BottleMapOut.model_validate_json(told["map"])


def supply(workshop: Workshop, build_id: int, asked: Supply) -> SupplyOut:
    """The circuit hot and cold at many speeds, its valve's setting, its start.

    Raises
    ------
    NotFound, InvalidInput
    """
    document = document_of(build_of(workshop, build_id))
    wanted = None if asked.wanted_bar is None else asked.wanted_bar * 1e5
    return supply_out(document, wanted, asked.at_rpm)


_POWER_KW = 150.0  # where nobody told (ours)


def cooling(workshop: Workshop, build_id: int, asked: Stint) -> CoolingOut:
    """The oil's heat over a stint; speed and gas are those of the lap, where there is one.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    document, on = document_of(build), basis_of(build).on
    power = asked.greatest_power_kw or document.car.engine_power_kw
    stint = Conditions(
        power=(power or _POWER_KW) * 1e3, used=asked.used_pct / 100.0,
        share=asked.to_oil_pct / 100.0, air=asked.air_c + ZERO_CELSIUS,
        water=asked.water_c + ZERO_CELSIUS,
        speed=float(np.mean(on.lap.met.speed)),
        gas=float(np.mean(on.lap.trace.gas[:, on.lap.network.gallery])),
        lasts=asked.minutes * 60.0, begin=asked.begin_c + ZERO_CELSIUS,
    )  # fmt: skip
    into, out = asked.engine_in_c, asked.engine_out_c
    if into is None or out is None:
        return cooling_out(document, stint, power is None)
    try:
        told = measured_share(document, stint, float(np.mean(drunk(on.lap))), into, out)
    except InvalidQuantity as error:
        words = f"must be {error.requirement}: it takes heat up in the engine"
        raise InvalidInput([Problem("asked.engine_out_c", words)]) from error
    return cooling_out(document, told, power_guessed=False)


def guesses(workshop: Workshop, build_id: int) -> GuessesOut:
    """What nobody measured of the circuit, and how far it moves the forecast over the lap.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    if build.lap is None:
        return guesses_out(())
    log = log_of(build.lap)
    return guesses_out(swings(document_of(build), log, corners_of(build.lap, log)))
