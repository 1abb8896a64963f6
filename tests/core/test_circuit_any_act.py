"""Any sequence of acts on the circuit: what is left checks out and is read back alike."""

from __future__ import annotations

import json

from bilge_core.acts.registry import read_act
from bilge_core.checks.circuit import check_circuit
from bilge_core.document.build import Build
from bilge_core.document.ids import with_ids_by_place
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidInput
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.test_circuit_acts import BUILDS, Raw


@st.composite
def raw_acts(draw: st.DrawFn, build: Build) -> Raw:
    lines = [each.id for each in build.circuit.runs]
    in_line = ["bulkhead", "check_valve", "shut_off_valve", "sender_tee", "tee"]
    ids = [each.id for each in build.circuit.components]
    some = draw(st.sampled_from(ids))
    yes = draw(st.booleans())
    places = ["gallery_feed", "cooler_return", "gallery_tapping"]
    where = draw(st.sampled_from(["pan", "pump_inlet"]))
    holds = draw(st.sampled_from([None, 0.5]))
    warm = draw(st.sampled_from([None, 85]))
    one_of = [
        {"kind": "fit_accumulator", "volume_l": 2, "at": draw(st.sampled_from(places)),
         "check_valve": yes},
        {"kind": "fit_cooler", "cooler": "air" if yes else "plate", "thermostat_c": warm,
         "holds_l": holds},
        {"kind": "fit_sandwich_plate", "thermostat_c": warm},
        {"kind": "move_filter", "filters": 1 + yes, "holds_l": holds},
        {"kind": "second_filter", "holds_l": holds},
        {"kind": "fit_regulator", "opens_bar": 5, "bypass_to": where, "block_relief": yes},
        {"kind": "direct_feed"},
        {"kind": "feed_turbo", "restrictor_mm": 2 if yes else None,
         "fed_from": draw(st.sampled_from(["gallery", "cover"]))},
        {"kind": "fit_jets", "count": 4, "bore_mm": 1.6},
        {"kind": "fit_cover"},
        {"kind": "drain_turbo", "turbo": some, "how": "gravity" if yes else "scavenged"},
        {"kind": "outside_return", "head": some},
        {"kind": "fit_catch_can", "volume_l": 2, "drains_back": yes},
        {"kind": "fit_breather", "at": some},
        {"kind": "take_out", "component": some},
        {"kind": "put_in_line", "run": draw(st.sampled_from(lines)),
         "part": draw(st.sampled_from(in_line)), "at_bend": draw(st.sampled_from([None, 1]))},
    ]  # fmt: skip
    return draw(st.sampled_from(one_of))


@settings(max_examples=60, deadline=None)
@given(data=st.data())
def test_any_sequence_leaves_a_circuit_that_checks_out(data: st.DataObject) -> None:
    """What is refused names its field; what is done is read back alike, by its ids or by place."""
    build = data.draw(st.sampled_from(list(BUILDS.values())))
    first = build.model_dump_json()
    now = build
    for _ in range(data.draw(st.integers(1, 7))):
        try:
            done = read_act(data.draw(raw_acts(now))).done(now)
        except InvalidInput as error:
            assert all(each.field and each.message for each in error.problems)
            continue
        now = done.build
        assert [each.words for each in check_circuit(now) if each.state != "good"] == []
        assert read_build(now.model_dump_json()) == now
        by_place = with_ids_by_place(now.model_dump(mode="json"))
        again = read_build(json.dumps(by_place))
        assert [each.state for each in check_circuit(again)] == ["good"]
    assert build.model_dump_json() == first
