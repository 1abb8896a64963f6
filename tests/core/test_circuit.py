"""The circuit as a document: what it cannot be, what of it is asked, and when it checks out."""

from __future__ import annotations

import copy
import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from bilge_core.checks.circuit import check_circuit
from bilge_core.document.build import Build
from bilge_core.document.circuit.component import Port
from bilge_core.document.circuit.kinds import CLASSES
from bilge_core.document.circuit.template import MOST_SLOTS
from bilge_core.document.ids import ids_of, with_ids
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput

from tests.conftest import TEMPLATES
from tests.core.test_ids import OLD
from tests.everything import everything

Document = dict[str, Any]
Make = Callable[..., Document]
BOSS = {
    "kind": "turbo_drain", "name": "turbo's drain", "x_mm": 205, "y_mm": 119, "depth_mm": 40,
    "bore_mm": 16,
}  # fmt: skip


@pytest.fixture
def box(box_document: Make) -> Document:
    """A box pan with the circuit of a template."""
    return build_from(box_document()).model_dump(mode="json")


def part(document: Document, kind: str) -> Document:
    found: Document = next(p for p in document["circuit"]["components"] if p["kind"] == kind)
    return found


def run(document: Document, name: str) -> Document:
    found: Document = next(r for r in document["circuit"]["runs"] if r["name"] == name)
    return found


def said(document: Document) -> list[str]:
    return [check.words for check in check_circuit(build_from(document))]


def which(path: Path) -> str:
    return f"{path.parent.name} {path.stem}"


@pytest.mark.parametrize("path", [*TEMPLATES, *OLD], ids=which)
def test_every_template_and_everything_older_checks_out(path: Path) -> None:
    (only,) = check_circuit(read_build(path.read_text()))
    assert only.state == "good" and "every port shut" in only.words


@pytest.mark.parametrize(
    "path", [path for path in OLD if path.parent.name < "version-3"], ids=which
)
def test_an_older_document_says_the_same_of_pump_and_oil(path: Path) -> None:
    old, build = json.loads(path.read_text()), read_build(path.read_text())
    assert build.circuit.pump.displacement_cm3 == old["pump"]["displacement_cm3"]
    assert build.circuit.pump.drive_ratio == old["pump"]["drive_ratio"]
    assert build.circuit.relief_bar == old["pump"].get("relief_bar")
    assert build.oil.away_l == old["oil"]["away_l"]
    tube, suction = old["pickup"].get("tube") or {}, build.circuit.suction
    assert suction is not None
    assert getattr(suction.line, "length_mm", None) == tube.get("length_mm")
    assert suction.end.age == (old["pickup"].get("joint") or {}).get("age")


class TestOfVersion2:
    """What older documents said of the circuit, read into it."""

    def test_a_turbo_drain_and_a_return_in_the_pan_are_joined(self, box_document: Make) -> None:
        bosses = [BOSS, {**BOSS, "kind": "return", "name": "line back", "y_mm": -119},
                  {**BOSS, "name": "old drain", "x_mm": 100, "blocked": True}]  # fmt: skip
        build = build_from(box_document(pan__bosses=bosses))
        first, second, blocked = (boss.id for boss in build.pan.bosses)
        ends = {r.end.port: r for r in build.circuit.runs}
        start = build.circuit.component(ends[first].start.component)
        assert start is not None and start.kind == "turbo"
        assert ends[second].start.port == "drains"
        assert blocked not in ends
        assert said(build.model_dump(mode="json"))[0].startswith("The circuit checks out")

    def test_forty_bosses_are_all_joined_and_no_slot_is_used_twice(
        self, box_document: Make
    ) -> None:
        bosses = [{**BOSS, "name": f"d{at}", "x_mm": 10 + 9 * at} for at in range(40)]
        document = build_from(box_document(pan__bosses=bosses)).model_dump(mode="json")
        circuit = document["circuit"]
        names = [each["id"] for each in [*circuit["components"], *circuit["runs"]]]
        assert len(names) == len(set(names)) == 9 + 80 + 11 + 120
        assert max(int(name[1:]) for name in names) <= MOST_SLOTS

    @pytest.mark.parametrize(
        ("cylinders", "heads"),
        [(None, ["head"]), ("in_line", ["head"]), ("vee", ["left head", "right head"]),
         ("flat", ["left head", "right head"])],
    )  # fmt: skip
    def test_heads_by_layout(
        self, box_document: Make, cylinders: str | None, heads: list[str]
    ) -> None:
        build = build_from(box_document(car__cylinders=cylinders))
        assert [each.name for each in build.circuit.components if each.kind == "head"] == heads

    def test_places_that_hold_oil_go_to_their_components(self, box_document: Make) -> None:
        places = {"Second filter": 0.3, "filter": 0.4, "Cam boxes": 0.5, "windage": 0.2}
        rows = [{"name": name, "volume_l": litres} for name, litres in places.items()]
        build = build_from(box_document(oil__held=rows))
        held = {p.kind: p.holds_l for p in build.circuit.components if p.holds_l is not None}
        assert held == {"filter": 0.7, "head": 0.5, "crankcase": 0.2}
        assert part(build.model_dump(), "crankcase")["name"] == "crankcase, windage"
        assert build.oil.away_l == pytest.approx(1.4)

    def test_what_the_builder_gave_is_not_called_assumed(self, box_document: Make) -> None:
        known = build_from(box_document(pump__relief_bar=5.0)).circuit
        assumed = {each.kind for each in known.components if each.assumed}
        assert not {"pressure_stage", "relief"} & assumed and {"filter", "gallery"} <= assumed
        assert part({"circuit": build_from(box_document()).circuit.model_dump()}, "relief")[
            "assumed"
        ]

    @pytest.mark.parametrize(
        ("changes", "field"),
        [
            ({"pump__displacement_cm3": "big"}, "pump.displacement_cm3"),
            ({"pump__drive_ratio": 9}, "pump.drive_ratio"),
            ({"pump": {"drive_ratio": 0.5}}, "pump.displacement_cm3"),
            ({"pump__colour": "red"}, "pump.colour"),
            ({"pickup__tube": {"bore_mm": 19}}, "pickup.tube.length_mm"),
            ({"pickup__joint": {"seal": "glue", "age": "new"}}, "pickup.joint.seal"),
            ({"oil__held": [{"name": "x", "volume_l": 99}]}, "oil.held.0.volume_l"),
        ],
    )  # fmt: skip
    def test_what_is_wrong_is_told_by_the_file_s_own_fields(
        self, box_document: Make, changes: Document, field: str
    ) -> None:
        with pytest.raises(InvalidInput) as refused:
            build_from(box_document(**changes))
        assert [each.field for each in refused.value.problems] == [field]


class TestWhatItCannotBe:
    """Refused when a document is read, with the field named."""

    @pytest.mark.parametrize(
        ("name", "end", "change", "words"),
        [
            ("to the relief", "end", {"component": "c77"}, "must be a component"),
            ("to the relief", "end", {"port": "sideways"}, "must be a port of relief valve: inlet"),
            ("to the relief", "end", {"port": "bypass"}, "takes return, not pressure"),
            ("to the relief", "end", {"component": "c4", "port": "outlet"}, "flows the other way"),
            ("filter to gallery", "end", {"port": "second_feed"}, "is plugged"),
            ("down to the pan", "end", {"port": "b99"}, "is no boss of the pan"),
        ],
    )
    def test_an_end(self, box: Document, name: str, end: str, change: Document, words: str) -> None:
        run(box, name)[end] |= change
        with pytest.raises(InvalidInput, match=words) as refused:
            build_from(box)
        at = box["circuit"]["runs"].index(run(box, name))
        assert all(p.field.startswith("circuit.runs.") for p in refused.value.problems)
        assert any(p.field.startswith(f"circuit.runs.{at}.{end}") for p in refused.value.problems)

    def test_a_port_joined_twice(self, box: Document) -> None:
        box["circuit"]["runs"].append({**run(box, "to the filter"), "id": "", "name": "again"})
        with pytest.raises(InvalidInput, match="joined already"):
            build_from(box)

    def test_a_tapping_takes_many(self, box: Document) -> None:
        feed = run(box, "feed of the head")
        jets = {"id": "c90", "kind": "jets", "name": "jets", "count": 4, "bore_mm": 1.5}
        box["circuit"]["components"].append(jets)
        box["circuit"]["runs"] += [
            {**feed, "id": "r90", "name": "jets' feed",
             "end": {"component": "c90", "port": "feed"}},
            {**run(box, "off the bearings"), "id": "r91", "name": "spray",
             "start": {"component": "c90", "port": "spray"}},
        ]  # fmt: skip
        assert said(box)[0].startswith("The circuit checks out: 10 components, 13 runs")

    @pytest.mark.parametrize(
        ("change", "field", "words"),
        [
            (lambda d: part(d, "filter").update(plugged=["top"]), "components.4.plugged", "ports"),
            (lambda d: part(d, "relief").update(senses="c88"), "components.3.senses", "component"),
            (lambda d: d["circuit"].update(gauge="c88"), "gauge", "component"),
        ],
    )  # fmt: skip
    def test_other_names(
        self, box: Document, change: Callable[[Document], None], field: str, words: str
    ) -> None:
        change(box)
        with pytest.raises(InvalidInput, match=words) as refused:
            build_from(box)
        assert [p.field for p in refused.value.problems] == [f"circuit.{field}"]

    def test_without_a_pump(self, box: Document) -> None:
        box["circuit"] = {"components": [part(box, "pan_region")], "runs": [], "gauge": ""}
        with pytest.raises(InvalidInput, match="must have a pressure stage"):
            build_from(box)

    def test_a_length_beside_a_route(self, box: Document) -> None:
        tube = run(box, "pickup tube")
        tube["route"] = [{"at_mm": [0, 0, 0]}, {"at_mm": [0, 100, 0]}]
        build_from(box)
        tube["line"]["length_mm"] = 200
        with pytest.raises(InvalidInput, match="leave its length out"):
            build_from(box)


class TestCheckingOut:
    """Each rule broken once: what is said, and of which part."""

    def test_an_open_port(self, box: Document) -> None:
        part(box, "gallery")["plugged"] = []
        (only,) = check_circuit(build_from(box))
        assert only.words == "main gallery: the port 'second feed' is open; join it or plug it"
        assert only.field == "circuit.components.5"
        assert only.state == "bad"

    def test_a_line_taken_off(self, box: Document) -> None:
        box["circuit"]["runs"].remove(run(box, "filter to gallery"))
        told = said(box)
        assert "filter: the port 'outlet' is open; join it or plug it" in told
        assert "main gallery has a line under pressure that no pressure stage feeds" in told
        assert "head has a line under pressure that no pressure stage feeds" in told
        assert "Oil that goes into filter (inlet) has no way back to a pan or a tank" in told

    def test_fed_from_two_stages(self, box: Document) -> None:
        second = {**part(box, "pressure_stage"), "id": "c70", "name": "second pump"}
        box["circuit"]["components"].append({**second, "plugged": ["relief_return"]})
        mouth = run(box, "pickup's mouth")
        box["circuit"]["runs"] += [
            {**mouth, "id": "r70", "name": "its suction",
             "end": {"component": "c70", "port": "inlet"}},
            {**run(box, "filter to gallery"), "id": "r71", "name": "its feed",
             "start": {"component": "c70", "port": "outlet"},
             "end": {"component": "c6", "port": "second_feed"}},
        ]  # fmt: skip
        part(box, "gallery")["plugged"] = []
        told = said(box)
        assert "main gallery is fed from oil pump and second pump: one stage must feed it" in told
        assert not any("filter" in words for words in told)

    def test_no_way_back(self, box: Document) -> None:
        box["circuit"]["runs"].remove(run(box, "down to the pan"))
        told = said(box)
        assert "Oil that goes into crankcase (oil in) has no way back to a pan or a tank" in told
        assert "Oil that goes into pickup (mouth) has no way back to a pan or a tank" in told

    def test_a_closed_loop(self, box: Document) -> None:
        """The filter's outlet led back into the pump: nothing comes from the pan."""
        box["circuit"]["runs"].remove(run(box, "pickup tube"))
        back = run(box, "filter to gallery")
        back |= {"service": "suction"}
        tee = {"id": "c80", "kind": "tee", "name": "tee", "plugged": ["c"]}
        box["circuit"]["components"].append(tee)
        back |= {"service": "pressure", "end": {"component": "c80", "port": "a"}}
        box["circuit"]["runs"].append(
            {**back, "id": "r80", "name": "round", "service": "suction",
             "start": {"component": "c80", "port": "b"},
             "end": {"component": "c3", "port": "inlet"}}
        )  # fmt: skip
        loops = [words for words in said(box) if words.startswith("A loop without")]
        assert len(loops) == 1
        assert all(name in loops[0] for name in ("oil pump", "relief valve", "filter", "tee"))

    def test_a_relief_that_returns_to_its_pump_is_no_loop(self, box: Document) -> None:
        assert run(box, "relief's return")["end"]["port"] == "relief_return"
        assert said(box)[0].startswith("The circuit checks out")

    def test_bosses_open_and_blocked(self, box_document: Make) -> None:
        document = build_from(box_document(pan__bosses=[BOSS])).model_dump(mode="json")
        boss = document["pan"]["bosses"][0]
        boss["blocked"] = True
        assert said(document) == [
            "A line ends at the pan's boss \"turbo's drain\", which is blocked"
        ]
        boss["blocked"] = False
        drain = run(document, "turbo's drain")
        drain["end"]["port"] = "returns"
        assert said(document)[0].startswith("The pan's boss \"turbo's drain\" is open")

    def test_a_dry_circuit_is_held_and_checks_out(self, box: Document) -> None:
        """Two scavenge stages, a separator and a tank in place of the suction from the pan."""
        circuit = box["circuit"]
        suction, back = run(box, "pickup tube"), run(box, "relief's return")
        circuit["runs"] = [
            r for r in circuit["runs"] if r["name"] not in ("pickup tube", "pickup's mouth")
        ]
        stages = [
            {"id": f"c{60 + at}", "kind": "scavenge_stage", "name": f"scavenge {at}",
             "displacement_cm3": 15, "drive_ratio": 0.6} for at in (1, 2)
        ]  # fmt: skip
        circuit["components"] = [c for c in circuit["components"] if c["kind"] != "pickup"] + [
            *stages, {"id": "c63", "kind": "tee", "name": "scavenge tee"},
            {"id": "c64", "kind": "separator", "name": "separator"},
            {"id": "c65", "kind": "tank", "name": "tank", "volume_l": 11, "plugged": ["drain"]},
        ]  # fmt: skip
        rows = [
            ("scavenge", "c1.pickup", "c61.inlet"), ("scavenge", "c1.pickup", "c62.inlet"),
            ("return", "c61.outlet", "c63.a"), ("return", "c62.outlet", "c63.b"),
            ("return", "c63.c", "c64.inlet"), ("return", "c64.outlet", "c65.returns"),
            ("vent", "c64.gas", "c65.gas"), ("suction", "c65.outlet", "c3.inlet"),
            ("vent", "c65.gas", "c10.inlet"),
        ]  # fmt: skip
        for at, (service, start, end) in enumerate(rows):
            ends = [
                dict(zip(("component", "port"), e.split("."), strict=True)) for e in (start, end)
            ]
            circuit["runs"].append(
                {**suction, "id": f"r{60 + at}", "name": f"line {at}", "service": service,
                 "start": ends[0], "end": ends[1]}
            )  # fmt: skip
        assert back in circuit["runs"]
        assert said(box)[0].startswith("The circuit checks out: 13 components")


def test_every_kind_has_ports_that_lead_somewhere() -> None:
    for kind, part_class in CLASSES.items():
        ports: dict[str, Port] = {port.key: port for port in part_class.PORTS}
        assert ports and len(ports) == len(part_class.PORTS), kind
        for key, leaves in (part_class.WAYS or {}).items():
            assert {key, *leaves} <= ports.keys(), kind
        assert all(port.services for port in ports.values()), kind


def test_ids_of_new_parts_are_followed_by_what_names_them() -> None:
    """Given anew, since they were made up: runs, sensing and gauge still name the same parts."""
    document = build_from(everything()).model_dump(mode="json")
    known = ids_of(document)
    tee = {"id": "c900", "kind": "tee", "name": "new tee"}
    document["circuit"]["components"].append(tee)
    feed = run(document, "filter to gallery")
    rest = {**copy.deepcopy(feed), "id": "r901", "start": {"component": "c900", "port": "b"}}
    feed["end"] = {"component": "c900", "port": "a"}
    document["circuit"]["runs"].append(rest)
    document["circuit"]["gauge"] = "c900"
    given = build_from(with_ids(document, 500, known)[0]).circuit
    new = next(each for each in given.components if each.name == "new tee")
    assert new.id == "c501" and given.gauge == "c501"
    assert given.runs[-1].start.component == "c501"
    assert next(r for r in given.runs if r.name == "filter to gallery").end.component == "c501"


def test_build_is_frozen_with_its_circuit(box: Document) -> None:
    build: Build = build_from(box)
    with pytest.raises(ValueError, match="frozen"):
        build.circuit.gauge = "c1"  # type: ignore[misc]
