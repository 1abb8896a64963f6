"""Acts as data: any sequence leaves a build that holds together, and each says what it did."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from bilge_core.acts.deepen import Deepen, Spacer
from bilge_core.acts.figures import Figure, SetFigures
from bilge_core.acts.mend import CarryToWall
from bilge_core.acts.registry import AnyAct, as_typed, read_act
from bilge_core.document.build import Build
from bilge_core.document.ids import ids_of, last_number, without_ids
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput
from bilge_core.pan import assemble_pan
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.circuit_acts import ONE_OF_EACH as ON_CIRCUIT
from tests.core.test_plates_fitted import ONE_OF_EACH as ON_PLAIN_PAN

BUILDS = {
    path.stem: read_build(path.read_text()) for path in sorted(Path("demo").glob("dunlin*.json"))
}
FLANGE = {"kind": "flange", "width_mm": 18, "spacing_mm": 80, "hole_mm": 7, "thickness_mm": 6}
LENGTHS = st.sampled_from([-30, -6.35, 4, 6.35, 12.7, 40])


def figure(field: str, value: float | str | None) -> dict[str, Any]:
    return {"kind": "figures", "figures": [{"field": field, "value": value}]}


@st.composite
def raw_acts(draw: st.DrawFn, build: Build) -> dict[str, Any]:
    """Any act with parts of the build, some of which are gone by the time it is done."""
    ids = sorted(ids_of(build.model_dump()))
    parts = {letter: [each for each in ids if each[0] == letter] or ["x9"] for letter in "zpgbk"}
    zone = draw(st.sampled_from(parts["z"]))
    return draw(
        st.sampled_from(
            [
                {"kind": "spacer", "by_mm": draw(LENGTHS)},
                {"kind": "deepen", "by_mm": draw(LENGTHS), "zones": [zone]},
                {
                    "kind": "sump_preset", "depth_mm": 140,
                    "shelf_mm": draw(st.sampled_from([40, 150])),
                    "place": draw(st.sampled_from(["front", "middle", "rear"])),
                },
                FLANGE,
                {"kind": "turn_gate", "gate": draw(st.sampled_from(parts["g"]))},
                {
                    "kind": "carry_to_wall", "plate": draw(st.sampled_from(parts["p"])),
                    "end": draw(st.sampled_from(["start", "end"])),
                },
                figure("oil.volume_l", draw(st.sampled_from([5.0, 7.5]))),
                figure(f"pan.zones.{zone}.name", "another"),
                figure("pickup.gap_mm", draw(st.sampled_from([6.0, 10.0]))),
            ]
        )
    )  # fmt: skip


@settings(max_examples=40, deadline=None)
@given(data=st.data())
def test_any_sequence_leaves_a_build_that_holds_together(data: st.DataObject) -> None:
    """What is refused leaves it as it was; what is done is read back as the same document."""
    build = data.draw(st.sampled_from(list(BUILDS.values())))
    first = build.model_dump_json()
    states = [build]
    for _ in range(data.draw(st.integers(1, 5))):
        act = read_act(data.draw(raw_acts(states[-1])))
        before = states[-1].model_dump_json()
        try:
            done = act.done(states[-1])
        except InvalidInput as refused:
            assert all(problem.message and problem.field for problem in refused.problems)
            assert states[-1].model_dump_json() == before
            continue
        assemble_pan(done.build)
        assert done.words
        assert read_build(done.build.model_dump_json()) == done.build
        names = list(ids_of(done.build.model_dump()))
        assert len(names) == len(set(names))
        states.append(done.build)
    # undo goes back to the state before: acts never change one in place
    assert states[0].model_dump_json() == first


ONE_OF_EACH: list[tuple[dict[str, Any], str]] = [
    ({"kind": "spacer", "by_mm": "1/4 in"}, "spacer under the pan, 1/4 in: +0.61 L to the rail"),
    ({"kind": "deepen", "by_mm": 20, "zones": ["z4"]}, "sump deeper, 20 mm: +1.0"),
    ({"kind": "sump_preset", "place": "rear", "depth_mm": "150", "shelf_mm": 50},
     "pan begun anew, sump rear"),
    (FLANGE, "flange with 18 holes"),
    ({"kind": "turn_gate", "gate": "g26"}, "gate G3 turned round"),
    ({"kind": "carry_to_wall", "plate": "p20", "end": "end"}, "plate P2 carried to the wall"),
    (figure("oil.volume_l", "7 qt"), "oil in the engine to 7 qt"),
    (figure("pan.zones.z5.floor.to_depth_mm", 90), "ramp: to depth to 90"),
    ({"kind": "fit_tray"}, "windage tray 28 mm under the rail, 35 % open"),
    ({"kind": "go_dry", "depth_mm": 75},
     "dry sump: pan 75 mm deep, 3 scavenge stages, tank of 9 L"),
    ({"kind": "fit_scraper", "gap_mm": "1/16 in"}, "crank scraper on the right, 1.5875 mm off"),
    ({"kind": "brace_pickup"}, "pickup braced at its tube"),
    ({"kind": "move_pickup", "left_mm": "-1/2 in"}, "pickup moved 13 mm to the right"),
    ({"kind": "kick_out", "side": "right", "width_mm": "1 in"}, "kick-out 1 in wider"),
    ({"kind": "refill", "to_l": "7 qt"}, "filled to 7 qt"),
    ({"kind": "lay_line", "run": "r15", "dash": 12, "length_mm": "2 ft"},
     "to the cooler, hose, size 12, 2 ft long"),
    ({"kind": "set_port", "component": "c12", "port": "inlet", "faces": "up"},
     "cooler and lines, inlet, faces up"),
    ({"kind": "learn", "source": "12 November, two laps",
      "up_top_more_l": {"value": 0.25, "give": 0.1, "source": "12 November"},
      "bearings_pct": {"value": 104.0, "give": 3.0, "source": "12 November"}},
     "learned: +0.25 ± 0.10 L up top, bearings let through 104 % of what was thought; 12"),
]  # fmt: skip


@pytest.mark.parametrize(("raw", "words"), ONE_OF_EACH, ids=lambda each: str(each)[:30])
def test_each_says_what_it_did(raw: dict[str, Any], words: str) -> None:
    build = BUILDS["dunlin-gated"]
    if raw["kind"] == "brace_pickup":
        build = build.model_copy(
            update={"pickup": build.pickup.model_copy(update={"braces": None})}
        )
    act = read_act(raw)
    done = act.done(build)
    assert done.words.startswith(words)
    assert without_ids(done.build.model_dump()) != without_ids(build.model_dump())
    # as data it can be kept and done again
    again = read_act(json.loads(act.model_dump_json()))
    assert again == act
    assert again.done(build) == done


def test_every_kind_is_tried() -> None:
    kinds = {kind for act in AnyAct.__origin__.__args__  # type: ignore[attr-defined]
             for kind in act.model_fields["kind"].annotation.__args__}  # fmt: skip
    tried = {"fit_drive", "make_of_sheet", "pan_from_scan", "flange_drawn"}  # tested where they are
    tried |= {raw["kind"] for raw, _ in [*ONE_OF_EACH, *ON_PLAIN_PAN]}
    assert tried | {raw["kind"] for _, raw, _ in ON_CIRCUIT} == kinds


def test_parts_that_stay_keep_their_ids() -> None:
    build = BUILDS["dunlin-gated"]
    ids = ids_of(build.model_dump())
    assert ids_of(Spacer(kind="spacer", by_mm=5).done(build).build.model_dump()) == ids
    assert (
        ids_of(Deepen(kind="deepen", by_mm=5, zones=["z4"]).done(build).build.model_dump()) == ids
    )
    preset = read_act({"kind": "sump_preset", "place": "front", "depth_mm": 140, "shelf_mm": 40})
    zones = [zone.id for zone in preset.done(build).build.pan.zones]
    assert not set(zones) & set(ids)
    assert min(int(each[1:]) for each in zones) > last_number(build.model_dump())


def test_zones_are_chosen_by_id_wherever_they_stand() -> None:
    document = BUILDS["dunlin"].model_dump(mode="json")
    document["pan"]["zones"].reverse()
    deeper = Deepen(kind="deepen", by_mm=20, zones=["z4"]).done(build_from(document)).build
    assert deeper.pan.zones[-1].floor.depth_mm == 158.0  # type: ignore[union-attr]


def test_one_end_of_a_plate_or_the_other() -> None:
    build = BUILDS["dunlin-gated"]
    plate = build.pan.plates[3]
    start = CarryToWall(kind="carry_to_wall", plate=plate.id, end="start").done(build).build
    assert start.pan.plates[3].from_mm == (408.0, -107.0)  # type: ignore[union-attr]
    assert start.pan.plates[3].to_mm == plate.to_mm  # type: ignore[union-attr]


class TestFiguresAsTyped:
    """Read in the unit system of who typed them, and remembered as they were."""

    @pytest.mark.parametrize(
        ("typed", "system", "value"),
        [
            ("8", "metric", 8.0), ("0.5", "us", 12.7), ("3/8 in", "metric", 9.525),
            ("9 mm", "us", 9.0),
        ],
    )  # fmt: skip
    def test_lengths(self, typed: str, system: Any, value: float) -> None:
        act = read_act(figure("pickup.gap_mm", typed), system)
        assert isinstance(act, SetFigures)
        assert act.figures == [Figure(field="pickup.gap_mm", value=value)]
        assert act.typed == {"pickup.gap_mm": typed}

    def test_names_stay_text(self) -> None:
        act = read_act(figure("name", " 7 qt "))
        assert isinstance(act, SetFigures)
        assert act.figures[0].value == "7 qt"

    def test_all_that_cannot_be_read_is_named(self) -> None:
        raw = {"kind": "figures", "figures": [
            {"field": "oil.volume_l", "value": "lots"}, {"field": "pickup.x_mm", "value": "3 L"},
            {"field": "pickup.y_mm", "value": "4"}]}  # fmt: skip
        with pytest.raises(InvalidInput) as refused:
            read_act(raw)
        assert [each.field for each in refused.value.problems] == ["oil.volume_l", "pickup.x_mm"]

    @pytest.mark.parametrize("raw", [None, 3, [], {"figures": 3}, {"figures": [3, {"field": 2}]}])
    def test_what_is_no_act_is_left_to_be_refused(self, raw: Any) -> None:
        assert as_typed(raw, "metric") == raw

    def test_text_in_a_number_is_refused(self) -> None:
        with pytest.raises(InvalidInput, match=r"oil.volume_l: must be a number"):
            SetFigures(kind="figures", figures=[Figure(field="oil.volume_l", value="much")]).done(
                BUILDS["dunlin"]
            )


@pytest.mark.parametrize(
    ("raw", "field"),
    [
        ({"kind": "spacer", "by_mm": 5, "extra": 1}, "extra"),
        ({"kind": "spacer"}, "by_mm"),
        ({"kind": "nothing"}, "kind"),
        ({}, "kind"),
        ({"kind": "sump_preset", "place": "top", "depth_mm": 1, "shelf_mm": 1}, "place"),
        (figure("oil", 3) | {"figures": []}, "figures"),
        (figure("Oil.volume", 3), "figures.0.field"),
    ],
)
def test_what_is_wrong_is_named(raw: dict[str, Any], field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        read_act(raw)
    assert [each.field for each in refused.value.problems] == [field]


@pytest.mark.parametrize(
    "field", ["oil.colour_l", "pan.zones.z99.name", "pan.zones.7.name", "name.x"]
)
def test_a_field_that_is_not_there(field: str) -> None:
    with pytest.raises(InvalidInput, match="is not a field of this build"):
        read_act(figure(field, "1")).done(BUILDS["dunlin"])


@pytest.mark.parametrize(
    "field", ["version", "format", "pan.zones.z4.id", "pan.zones.z4.floor.kind"]
)
def test_what_is_no_figure(field: str) -> None:
    with pytest.raises(InvalidInput, match="cannot be changed"):
        read_act(figure(field, "2")).done(BUILDS["dunlin"])


class TestAPartThatIsNotKnown:
    """A filter's drop: two figures or none."""

    FILTER = next(part.id for part in BUILDS["dunlin"].circuit.components if part.kind == "filter")

    def typed(self, **figures: str | None) -> Build:
        path = f"circuit.components.{self.FILTER}.drop"
        rows = [{"field": f"{path}.{key}", "value": value} for key, value in figures.items()]
        return read_act({"kind": "figures", "figures": rows}).done(BUILDS["dunlin"]).build

    def test_all_its_figures_in_one_act_make_it_known(self) -> None:
        build = self.typed(drop_bar="6 psi", flow_l_min="40")
        drop = next(part.drop for part in build.circuit.components if part.id == self.FILTER)
        assert drop.drop_bar == pytest.approx(0.41369, abs=1e-4) and drop.flow_l_min == 40.0
        path = f"circuit.components.{self.FILTER}.drop"
        gone = read_act(figure(path, None)).done(build).build
        assert gone == BUILDS["dunlin"]

    def test_one_of_two_is_refused_by_what_is_missing(self) -> None:
        with pytest.raises(InvalidInput, match=r"drop\.flow_l_min.*missing"):
            self.typed(drop_bar="0.4")

    def test_what_is_no_figure_of_it_is_refused(self) -> None:
        with pytest.raises(InvalidInput, match=r"drop\.colour"):
            self.typed(drop_bar="0.4", flow_l_min="40", colour="3")


@pytest.mark.parametrize(
    ("field", "value", "words"),
    [
        ("pan.zones.z4.outline_mm.1.0", "286", "deep sump: outline to 286"),
        (f"circuit.components.{TestAPartThatIsNotKnown.FILTER}.holds_l", "0.4",
         "filter: oil that it holds to 0.4"),
        ("pickup.gap_mm", "9", "mouth's gap to 9"),
    ],
)  # fmt: skip
def test_a_figure_is_called_by_the_part_that_it_is_of(field: str, value: str, words: str) -> None:
    assert read_act(figure(field, value)).done(BUILDS["dunlin"]).words == words


def test_what_reads_but_is_no_pan_is_refused() -> None:
    """A plate that stands outside: the document is well formed, the pan cannot be assembled."""
    far = {"kind": "figures", "figures": [
        {"field": f"pan.plates.p20.{end}.{axis}", "value": value}
        for end, place in (("from_mm", (900, -70)), ("to_mm", (900, 70)))
        for axis, value in enumerate(place)]}  # fmt: skip
    with pytest.raises(InvalidInput, match=r"pan\.plates\.3"):
        read_act(far).done(BUILDS["dunlin-gated"])
