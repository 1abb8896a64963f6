"""The Dunlin with a bottle in the cooler's return, every line laid in the car. Invented."""

from __future__ import annotations

from typing import Any

from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build

_SIZE = 10
_SPOT = tuple[float, float, float]


def _port(name: str, port: str, at: _SPOT, faces: str) -> tuple[str, str, _SPOT, str]:
    return name, port, at, faces


PORTS = (
    _port("sandwich plate", "cooler_out", (230, -150, 130), "right"),
    _port("cooler and lines", "inlet", (690, -130, 60), "behind"),
    _port("cooler and lines", "outlet", (690, 130, 60), "behind"),
    _port("check valve", "inlet", (400, -420, 90), "ahead"),
    _port("check valve", "outlet", (340, -420, 90), "behind"),
    _port("bottle's tee", "a", (190, -420, 90), "ahead"),
    _port("bottle's tee", "b", (160, -390, 90), "left"),
    _port("bottle's tee", "c", (130, -420, 90), "behind"),
    _port("sandwich plate", "cooler_in", (160, -150, 130), "right"),
    _port("bottle's valve", "a", (-150, -420, 40), "ahead"),
)
"""Component, port, where it is and which way it faces: ahead of the rail, left, up, in the car."""

WAYS: dict[str, list[dict[str, Any]]] = {
    "to the cooler": [
        {"at_mm": (230, -150, 130)}, {"at_mm": (230, -300, 130), "radius_mm": 130},
        {"at_mm": (560, -300, 60), "radius_mm": 140}, {"at_mm": (690, -130, 60)},
    ],
    "from the cooler": [
        {"at_mm": (690, 130, 60)}, {"at_mm": (540, 130, 60), "radius_mm": 130},
        {"at_mm": (540, -420, 90), "radius_mm": 135}, {"at_mm": (400, -420, 90)},
    ],
    "from the check valve": [{"at_mm": (340, -420, 90)}, {"at_mm": (190, -420, 90)}],
    "from the bottle's tee": [{"at_mm": (160, -390, 90)}, {"at_mm": (160, -150, 130)}],
    "to the bottle's valve": [{"at_mm": (130, -420, 90)}, {"at_mm": (-150, -420, 40)}],
}  # fmt: skip


def plumbed(build: Build) -> Build:
    """A build with a cooler, fitted with a bottle, its lines laid."""
    acts: list[dict[str, Any]] = [
        {"kind": "fit_accumulator", "volume_l": 2.0, "at": "cooler_return", "precharge_bar": 2.0}
    ]
    build = _after(build, acts)
    ids = {each.name: each.id for each in build.circuit.components}
    runs = {each.name: each.id for each in build.circuit.runs}
    acts = [
        {"kind": "set_port", "component": ids[name], "port": port, "at_mm": at, "faces": faces}
        for name, port, at, faces in PORTS
    ]
    for name, points in WAYS.items():
        far = sum(abs(a - b) for a, b in zip(points[0]["at_mm"], points[-1]["at_mm"], strict=True))
        acts.append(
            {
                "kind": "lay_line", "run": runs[name], "dash": _SIZE, "points": points,
                "clips_mm": 250, "slack_mm": max(10, round(0.033 * far)),
            }
        )  # fmt: skip
    breathes = {"kind": "lay_line", "run": runs["breathing"], "dash": 10, "length_mm": 700}
    document = _after(build, [*acts, breathes]).model_dump(mode="json")
    document["name"] = "Dunlin, bottle and lines"
    document["notes"] = "Invented. A bottle in the cooler's return, its lines laid in the car."
    return Build.model_validate(document)


def _after(build: Build, acts: list[dict[str, Any]]) -> Build:
    for act in acts:
        build = read_act(act).done(build).build
    return build
