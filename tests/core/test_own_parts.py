"""A workshop's own parts: looked over, screwed into chains, added to the order; tools."""

from __future__ import annotations

import dataclasses
from typing import Any

import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.circuit.feeding import Cooler
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidInput
from bilge_core.lines.bending import Bender
from bilge_core.lines.chain import chain_of, chains, screws
from bilge_core.lines.flows import flows_cold, flows_hot
from bilge_core.lines.laid import lines_of
from bilge_core.lines.order import Need, needs_of, order_of
from bilge_core.options.candidate import Prices
from bilge_core.shop import PARTS, ShopPart, own_part
from bilge_core.shop.own import MOST_COST, MOST_DAYS, MOST_HEIGHT, MOST_WEIGHT
from bilge_core.shop.threads import Joint
from bilge_core.shop.tools import tools_for
from bilge_core.tell.lines_all import lines_out

from tests.conftest import DEMO

DUNLIN = read_build((DEMO / "dunlin-shop.json").read_text())
BOUGHT = ShopPart("own_m18_12", "adaptor, M18 to 12", "piece", 15.0, 4, 0.07)
ENDS = ("metric M18x1.5 male", "flare 12 male")
FITTING = own_part(BOUGHT, ENDS, height_mm=31, spanner="24 mm").fitting


def at_fault(**changes: Any) -> list[str]:
    fitting = {
        key: changes.pop(key) for key in ("ends", "angle", "height_mm", "spanner") if key in changes
    }
    part = dataclasses.replace(BOUGHT, **changes)
    with pytest.raises(InvalidInput) as refused:
        own_part(part, **{"ends": ENDS, "height_mm": 30.0, **fitting})
    return [problem.field for problem in refused.value.problems]


class TestLookedOver:
    @pytest.mark.parametrize(
        ("changes", "fields"),
        [
            ({"key": "hose_10"}, ["key"]),
            ({"key": "own_" + "a" * 31}, ["key"]),
            ({"words": "x"}, ["words"]),
            ({"words": "x" * 81}, ["words"]),
            ({"weight": MOST_WEIGHT + 1}, ["weight_kg"]),
            ({"spanner": "x" * 21}, ["spanner"]),
            ({"per": "dozen"}, ["per"]),
            ({"cost": MOST_COST + 1}, ["cost"]),
            ({"lead_days": MOST_DAYS + 1}, ["lead_days"]),
            ({"ends": ("metric M18x1.5 male", "")}, ["end_2"]),
            ({"ends": ("hose 10 male", "left-handed")}, ["end_1", "end_2"]),
            ({"angle": 30}, ["angle_deg"]),
            ({"height_mm": 0.0}, ["height_mm"]),
            ({"height_mm": MOST_HEIGHT + 1}, ["height_mm"]),
            ({"height_mm": float("nan")}, ["height_mm"]),
        ],
        ids=str,
    )
    def test_faults_are_named(self, changes: dict[str, Any], fields: list[str]) -> None:
        assert at_fault(**changes) == fields

    def test_what_is_just_let_is_a_part(self) -> None:
        widest = dataclasses.replace(
            BOUGHT, key="own_" + "a" * 30, words="x" * 80, cost=MOST_COST, lead_days=MOST_DAYS,
            weight=MOST_WEIGHT,
        )  # fmt: skip
        fitting = own_part(widest, ENDS, 90, MOST_HEIGHT, "x" * 20).fitting
        assert fitting is not None and fitting.height == pytest.approx(MOST_HEIGHT * 1e-3)
        assert own_part(dataclasses.replace(widest, words="ab")).fitting is None


class TestChains:
    PORT, END = Joint("metric M18x1.5", "female"), Joint("flare 12", "female")

    def test_one_of_its_own_goes_before_two_that_are_bought(self) -> None:
        assert FITTING is not None
        before = chains(self.PORT, self.END)
        assert len(before[0].fittings) == 2
        after = chains(self.PORT, self.END, own=(FITTING,))
        assert [part.key for part in after[0].fittings] == ["own_m18_12"]
        assert all(screws(self.PORT, each, self.END) for each in after)
        assert chains(self.PORT, self.END) == before  # and nobody else's are another's

    def test_it_goes_in_either_way_round(self) -> None:
        turned = own_part(BOUGHT, ENDS[::-1], height_mm=31).fitting
        assert turned is not None
        found = chains(self.PORT, self.END, own=(turned,))[0]
        assert found.fittings == (turned,) and screws(self.PORT, found, self.END)

    def test_it_is_known_where_it_is_kept_alone(self) -> None:
        assert FITTING is not None
        found = chain_of(["own_m18_12"], (FITTING,))
        assert found is not None and found.fittings == (FITTING,)
        assert chain_of(["own_m18_12"]) is None


def with_chosen() -> Any:
    """The demo car whose cooler has an M18 port, its own adaptor chosen for it."""
    cooler = DUNLIN.circuit.of_kind(Cooler)[0].id
    run = next(run for run in DUNLIN.circuit.runs if run.end.component == cooler)
    build = DUNLIN
    for raw in (
        {"kind": "set_port", "component": cooler, "port": run.end.port,
         "thread": "metric M18x1.5 female"},
        {"kind": "lay_line", "run": run.id, "made_of": "hose", "dash": 12,
         "end_fittings": ["own_m18_12"]},
    ):  # fmt: skip
        build = read_act(raw).done(build).build
    return build, run.id


class TestOrder:
    def test_a_chosen_one_is_ordered_with_its_spanner(self) -> None:
        assert FITTING is not None
        build, run = with_chosen()
        hot, cold = flows_hot(build), flows_cold(build)
        line = next(each for each in lines_of(build, hot, cold, (FITTING,)) if each.run.id == run)
        assert line.ends[1].is_chosen
        assert "own_m18_12" in {need.part for need in needs_of(build, line, Bender())}
        rows = {row.part: row for row in order_of(build, [line], Bender(), own=(FITTING,))}
        assert rows["own_m18_12"].spanner == "24 mm" and rows["own_m18_12"].count == 1
        # where nobody keeps it, what is bought is taken in its stead
        bare = next(each for each in lines_of(build, hot, cold) if each.run.id == run)
        assert not bare.ends[1].is_chosen and bare.ends[1].chain is not None
        assert len(bare.ends[1].chain.fittings) == 2

    def test_a_key_that_nobody_could_keep_is_refused(self) -> None:
        run = next(run for run in DUNLIN.circuit.runs if run.line.kind == "hose").id
        raw = {"kind": "lay_line", "run": run, "end_fittings": ["ownm18"]}
        with pytest.raises(InvalidInput, match="fittings of the shop"):
            read_act(raw).done(DUNLIN)

    def test_what_is_bought_besides_is_added_up_with_the_rest(self) -> None:
        assert FITTING is not None
        lube = ShopPart("own_lube", "assembly lube", "piece", 9.0, 12, 0.1)
        prices = Prices({"own_m18_12": BOUGHT, "own_lube": lube}, {}, (FITTING,))
        build, _ = with_chosen()
        before = lines_out(build, prices, Bender())
        filters = next((row.count for row in before.order if row.part == "oil_filter"), 0)
        also = [Need("own_lube", 2, "first start"), Need("oil_filter", 1, "to cut open")]
        after = lines_out(build, prices, Bender(), also=also)
        rows = {row.part: row for row in after.order}
        assert (rows["own_lube"].price, rows["own_lube"].lead_days) == (18.0, 12)
        assert rows["own_lube"].own_price and rows["own_lube"].why == ["first start"]
        assert rows["oil_filter"].count == filters + 1
        assert after.total == pytest.approx(before.total + 18.0 + PARTS["oil_filter"].cost)
        assert [row.part for row in after.order][-2:] == ["own_lube", "own_m18_12"]


class TestTools:
    """Common practice, no published source."""

    def test_a_hard_line_wants_its_bender_and_flaring_tool(self) -> None:
        found = tools_for(["tube_8", "tube_nut_8"])
        assert {"tube bender of the size", "37° flaring tool", "torque wrench"} <= set(found)
        assert not any("hose" in tool for tool in found)

    def test_sealant_is_for_taper_threads_alone(self) -> None:
        sealant = "thread sealant or tape, for taper threads alone"
        assert sealant in tools_for(["taper_1-2_10"])
        assert sealant not in tools_for(["union_10", "o_ring_10_10", "metric_M18x1.5_10"])

    def test_each_once_whatever_the_order(self) -> None:
        keys = ["port_plug", "o_ring_8_8", "hose_end_10_0", "union_10"]
        assert tools_for(keys) == tools_for(keys[::-1])
        assert len(set(tools_for(keys))) == len(tools_for(keys))
        assert tools_for([]) == ()
