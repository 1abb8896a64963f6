"""What documents of version 2 had instead of the circuit, and the circuit that it says.

Its parts are read by what they were then, so that what is wrong in an old file is told by the
fields of that file.
"""

from __future__ import annotations

from typing import Any

from pydantic import Field, ValidationError

from bilge_core.document.circuit.calibration import bearings_told, known_by
from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.pumps import PressureStage
from bilge_core.document.circuit.run import End
from bilge_core.document.circuit.template import wet_circuit, with_drained_bosses, with_held
from bilge_core.document.ids import Document
from bilge_core.document.parts import Name, Part
from bilge_core.document.pickup import Bend
from bilge_core.document.problems import problems_of
from bilge_core.document.pump import FlowPoint, GaugeReading, LowStage
from bilge_core.document.records import records_in
from bilge_core.errors import InvalidInput, Problem

_Seal = End.model_fields["seal"].annotation
_Age = End.model_fields["age"].annotation


class _Held(Part):
    name: Name
    volume_l: float = Field(ge=0, le=40)


class _Pump(Part):
    displacement_cm3: float | None = Field(default=None, gt=0, le=500)
    drive_ratio: float = Field(gt=0, le=4)
    flow_point: FlowPoint | None = None
    low_stage: LowStage | None = None
    relief_bar: float | None = Field(default=None, gt=0, le=30)


class _Tube(Part):
    bore_mm: float = Field(ge=3, le=80)
    length_mm: float = Field(ge=10, le=2000)
    bends: list[Bend] = Field(default=[], max_length=12)


class _Joint(Part):
    seal: _Seal  # type: ignore[valid-type]
    age: _Age  # type: ignore[valid-type]


def _read(kind: type[Part], raw: Any, field: str) -> Document:
    try:
        return kind.model_validate(raw).model_dump(mode="json")
    except ValidationError as error:
        raise InvalidInput(
            [Problem(f"{field}.{each.field}", each.message) for each in problems_of(error)]
        ) from None


def _with_tube(circuit: Document, tube: Document | None, joint: Document | None) -> Document:
    """The pickup's tube and its joint at the pump are the run into the pump's inlet."""

    def known(run: Document) -> Document:
        if run["id"] != "r2":
            return run
        line = run["line"] | (tube or {})
        end = run["end"] | (joint or {})
        return {**run, "line": line, "end": end, "assumed": tube is None}

    return {**circuit, "runs": [known(run) for run in circuit["runs"]]}


def _without(document: Document, *keys: str) -> Document:
    return {key: value for key, value in document.items() if key not in keys}


def circuit_of_2(document: Document) -> Document:
    """A document of version 2 with the circuit in place of what it had; ids are given already.

    What lacks its parts is left for whoever reads it to refuse.

    Raises
    ------
    InvalidInput
        With the field of version 2 named.
    """
    raw, pan, oil, pickup, car = (
        document.get(key) for key in ("pump", "pan", "oil", "pickup", "car")
    )
    if not all(isinstance(each, dict) for each in (raw, pan, oil, pickup, car)):
        return document
    assert raw and pan and oil and pickup and car is not None
    pump = _read(_Pump, raw, "pump")
    if pump["displacement_cm3"] is None and pump["flow_point"] is None:
        raise InvalidInput([Problem("pump.displacement_cm3", "is missing")])
    held = [_read(_Held, row, f"oil.held.{at}") for at, row in enumerate(oil.get("held") or [])]
    tube, joint = (
        _read(kind, pickup[key], f"pickup.{key}") if pickup.get(key) is not None else None
        for key, kind in (("tube", _Tube), ("joint", _Joint))
    )
    stage = {**_without(pump, "relief_bar"), "assumed": False}
    if stage["displacement_cm3"] is None:
        del stage["displacement_cm3"]
    circuit = wet_circuit(car.get("cylinders"), stage, pump["relief_bar"])
    for each in circuit["components"]:
        if each["kind"] == "relief" and pump["relief_bar"] is not None:
            each["assumed"] = False
    circuit = with_held(_with_tube(circuit, tube, joint), held)
    circuit = with_drained_bosses(circuit, pan.get("bosses") or [])
    return {
        **_without(document, "pump", "gauge_readings"),
        "oil": _without(oil, "held"),
        "pan": _without(pan, "inspection", "dipped"),
        "pickup": _without(pickup, "tube", "joint"),
        "circuit": _calibrated(circuit, document),
    }


def _calibrated(circuit: Document, document: Document) -> Document:
    """What the gauge's readings of then told of the bearings, as every forecast took it from them.

    The readings themselves are records since: whoever opens the file keeps them.
    """
    readings = [each for each in records_in(document) if isinstance(each, GaugeReading)]
    temperature = document["oil"].get("temperature_c")
    parts = circuit["components"]
    pump = next(each for each in parts if each["kind"] == "pressure_stage")
    relief = next(each["opens_bar"] for each in parts if each["kind"] == "relief")
    if not isinstance(temperature, int | float):
        return circuit
    told = bearings_told(PressureStage.model_validate(pump), relief, readings, temperature)
    if told is None:
        return circuit
    whole = Circuit.model_validate(circuit).model_dump(mode="json")
    for each in parts:
        if each["kind"] == "gallery":
            each["bearings"] = {**told.model_dump(mode="json"), "circuit": known_by(whole)}
    return circuit
