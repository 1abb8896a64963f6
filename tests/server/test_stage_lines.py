"""The stage Lines: laid by an act, the order ticked and kept, files, catalogue, bender."""

from __future__ import annotations

import csv
import io
from typing import Any, ClassVar

import pytest
from accounts.models import User
from bilge_core.options.candidate import Prices
from bilge_core.shop import PARTS
from builds.models import Build
from builds.schemas import ActIn
from builds.services import act
from config.errors import NotFound
from config.spreadsheets import csv_of, harmless
from openpyxl import load_workbook
from shop import services
from shop.catalogue import write_catalogue
from stages.lines.answer import lines

from tests.server.conftest import Api, fields

WAY = [
    {"at_mm": [150, 80, 120]}, {"at_mm": ["150", "260 mm", 120], "radius_mm": 130},
    {"at_mm": ["500", 260, 120]},
]  # fmt: skip


def to_cooler(build: Build) -> str:
    assert build.current is not None
    runs = build.current.document["circuit"]["runs"]
    return next(str(run["id"]) for run in runs if run["name"] == "to the cooler")


def lay(user: User, build: Build, base: int = 1, **more: Any) -> Build:
    wanted = {
        "base_state": base, "system": "metric",
        "act": {"kind": "lay_line", "run": to_cooler(build), "dash": 10, "points": WAY, **more},
    }  # fmt: skip
    return act(user, build.pk, ActIn.model_validate(wanted))


def test_a_line_is_laid_and_told(user: User, stranger: User, plain_build: Build) -> None:
    before = lines(user.workshop, plain_build.pk)
    assert [line.number for line in before.lines.lines] == [1, 2, 3]
    assert before.lines.lines[0].length_mm is None
    build = lay(user, plain_build, slack_mm=20)
    assert build.current is not None
    assert build.current.change.startswith("to the cooler, hose, size 10, laid, 1 bend")
    told = lines(user.workshop, build.pk).lines.lines[0]
    assert told.length_mm == pytest.approx(494, abs=1)
    assert told.points[1].at_mm == pytest.approx((150, 260, 120), abs=0.1)
    assert told.tightest_mm == 130 and told.least_mm == 125
    with pytest.raises(NotFound):
        lines(stranger.workshop, build.pk)


def test_a_fault_is_told_by_its_field(api: Api, plain_build: Build) -> None:
    wrong = [WAY[0], {"at_mm": [150, "a hand", 120]}]
    laid = {"kind": "lay_line", "run": to_cooler(plain_build), "points": wrong}
    body = {"base_state": 1, "system": "metric", "act": laid}
    status, told = api("POST", f"/builds/{plain_build.pk}/acts", body)
    assert status == 422 and fields(told) == ["points.1.at_mm.1"]
    body["act"] = {"kind": "lay_line", "run": to_cooler(plain_build), "points": [WAY[0], WAY[0]]}
    status, told = api("POST", f"/builds/{plain_build.pk}/acts", body)
    assert status == 422 and fields(told) == ["points.1.at_mm"]
    assert Build.objects.get(pk=plain_build.pk).current.number == 1  # type: ignore[union-attr]


class TestOrder:
    def test_what_was_ticked_is_kept_when_the_circuit_changes(
        self, user: User, api: Api, plain_build: Build
    ) -> None:
        here = f"/stages/lines/{plain_build.pk}"
        before = lines(user.workshop, plain_build.pk)
        assert before.to_come == len(before.lines.order) and before.wait_days >= 4
        status, told = api("PUT", f"{here}/order/hose_10", {"how_far": "ordered"})
        assert status == 200 and told["to_come"] == before.to_come
        status, told = api("PUT", f"{here}/order/hose_end_10_0", {"how_far": "arrived"})
        assert told["to_come"] == before.to_come - 1
        # a bottle wants more of both: what came is there, the rest is still to come
        wanted = {"base_state": 1, "system": "metric", "act": {
            "kind": "fit_accumulator", "volume_l": 2, "at": "cooler_return"}}  # fmt: skip
        act(user, plain_build.pk, ActIn.model_validate(wanted))
        after = lines(user.workshop, plain_build.pk)
        ticks = {tick.part: tick for tick in after.ticks}
        assert ticks["hose_10"].state == "ordered" and ticks["hose_10"].by == user.username
        assert ticks["hose_end_10_0"].count == 4 < ticks["hose_end_10_0"].wanted
        assert "accumulator" in {row.part for row in after.lines.order}
        status, told = api("PUT", f"{here}/order/hose_10", {"how_far": None})
        assert "hose_10" not in {tick["part"] for tick in told["ticks"]}

    def test_only_what_is_on_it_can_be_ticked(self, api: Api, plain_build: Build) -> None:
        here = f"/stages/lines/{plain_build.pk}/order"
        status, told = api("PUT", f"{here}/oil_tank", {"how_far": "have"})
        assert status == 422 and fields(told) == ["part"]
        assert api("PUT", f"{here}/hose_10", {"how_far": "stolen"})[0] == 422
        assert api("PUT", f"{here}/nothing", {"how_far": None})[0] == 404

    def test_what_the_car_has_is_left_out(self, user: User, plain_build: Build) -> None:
        assert not lines(user.workshop, plain_build.pk).compared
        plain_build.as_is = plain_build.current
        plain_build.save()
        told = lines(user.workshop, plain_build.pk)
        assert told.compared and told.lines.order == [] and told.wait_days == 0
        lay(user, plain_build)
        rows = {row.part for row in lines(user.workshop, plain_build.pk).lines.order}
        assert "hose_10" in rows and "cooler" not in rows


class TestFiles:
    def rows(self, text: str) -> list[list[str]]:
        return list(csv.reader(io.StringIO(text)))

    def test_csv(self, api: Api, plain_build: Build) -> None:
        answer = api.client.get(f"/api/stages/lines/{plain_build.pk}/csv")
        assert answer["Content-Disposition"].endswith('-order.csv"')
        first, *rest = self.rows(answer.content.decode())
        assert first[:3] == ["part", "count", "per"] and len(rest) > 5

    def test_a_spreadsheet_whose_sums_work(self, user: User, api: Api, plain_build: Build) -> None:
        answer = api.client.get(f"/api/stages/lines/{plain_build.pk}/spreadsheet")
        book = load_workbook(io.BytesIO(answer.content))
        assert book.sheetnames == ["order", "lines"]
        sheet = book["order"]
        last = sheet.max_row
        assert sheet.cell(last, 1).value == "total"
        assert sheet.cell(last, 5).value == f"=SUM(E2:E{last - 1})"
        total = sum(
            sheet.cell(at, 2).value * sheet.cell(at, 4).value for at in range(2, last)  # type: ignore[operator]
        )  # fmt: skip
        assert total == pytest.approx(lines(user.workshop, plain_build.pk).lines.total, abs=0.01)
        assert sheet.cell(2, 5).value == "=B2*D2"

    def test_no_name_is_taken_for_a_formula(self, user: User, api: Api, plain_build: Build) -> None:
        assert plain_build.current is not None
        run = next(r for r in plain_build.current.document["circuit"]["runs"]
                   if r["id"] == to_cooler(plain_build))  # fmt: skip
        run["name"] = "=cmd()"
        plain_build.current.save()
        answer = api.client.get(f"/api/stages/lines/{plain_build.pk}/spreadsheet")
        names = [row[1].value for row in load_workbook(io.BytesIO(answer.content))["lines"]]
        assert "'=cmd()" in names and "=cmd()" not in names
        assert harmless("@x") == "'@x" and csv_of(["a"], [["+1"]]).splitlines()[1] == "'+1"

    def test_a_page(self, user: User, api: Api, plain_build: Build) -> None:
        lay(user, plain_build)
        lay(user, plain_build, base=2, made_of="hard_line")
        answer = api.client.get(f"/api/stages/lines/{plain_build.pk}/page")
        assert answer["Content-Type"] == "application/pdf" and answer.content[:5] == b"%PDF-"


class TestCatalogue:
    def test_out_and_in_again(self, user: User, other_api: Api, api: Api) -> None:
        text = api.client.get("/api/shop/catalogue").content.decode()
        assert text == write_catalogue(Prices.generic())
        changed = text.replace('hose_10,"hose, size 10",metre,26.0,2', "hose_10,x,metre,31.5,7")
        assert changed != text
        status, told = api.upload("/shop/catalogue", changed.encode())
        hose = next(part for part in told["parts"] if part["key"] == "hose_10")
        assert status == 200 and (hose["cost"], hose["lead_days"], hose["own"]) == (31.5, 7, True)
        # another workshop's are its own
        _, theirs = other_api("GET", "/shop")
        assert not next(part for part in theirs["parts"] if part["key"] == "hose_10")["own"]

    @pytest.mark.parametrize(
        ("text", "named"),
        [
            ("key,cost,lead_days\nhose_10,cheap,2\n", ["file.2.cost"]),
            ("key,cost,lead_days\nhose_10,1,2\nnone,-1,2.5\n",
             ["file.3.key", "file.3.cost", "file.3.lead_days"]),
            ("key,cost,lead_days\nhose_10,nan,\n", ["file.2.cost", "file.2.lead_days"]),
            ("part,price\nx,1\n", ["file"]),
        ],
    )  # fmt: skip
    def test_faults_are_named_by_line_and_nothing_is_kept(
        self, api: Api, text: str, named: list[str]
    ) -> None:
        status, told = api.upload("/shop/catalogue", text.encode())
        assert status == 422 and fields(told) == named
        _, shop = api("GET", "/shop")
        assert not any(part["own"] for part in shop["parts"]) and len(shop["parts"]) == len(PARTS)

    OWN = (
        "key,part,per,cost,lead_days,weight_kg,end_1,end_2,angle_deg,height_mm,spanner\n"
        "own_m18_12,adaptor M18 to 12,piece,15,4,0.07,metric M18x1.5 male,flare 12 male,0,31,24\n"
        "own_lube,assembly lube,piece,9.5,12,,,,,,\n"
    )

    def test_own_parts_come_in_and_go_out_as_they_came(self, api: Api, other_api: Api) -> None:
        assert api.upload("/shop/catalogue", self.OWN.encode())[0] == 200
        told = api("GET", "/shop")[1]["own_parts"]
        assert [(row["key"], row["end_2"], row["cost"]) for row in told] == [
            ("own_lube", "", 9.5), ("own_m18_12", "flare 12 male", 15.0)
        ]  # fmt: skip
        assert other_api("GET", "/shop")[1]["own_parts"] == []
        text = api.client.get("/api/shop/catalogue").content.decode()
        assert "own_m18_12,adaptor M18 to 12,piece,15.0,4,0.07,metric M18x1.5 male,flare" in text
        assert api.upload("/shop/catalogue", text.encode())[0] == 200
        assert api("GET", "/shop")[1]["own_parts"] == told
        again = api.client.get("/api/shop/catalogue").content.decode()
        assert again.splitlines() == text.splitlines()

    def test_own_parts_with_faults_are_named_by_column_and_nothing_is_kept(self, api: Api) -> None:
        wrong = self.OWN.replace("flare 12 male", "flare 7 male").replace("9.5,12", "x,1.5")
        status, told = api.upload("/shop/catalogue", wrong.encode())
        assert status == 422
        assert fields(told) == ["file.2.end_2", "file.3.cost", "file.3.lead_days"]
        assert api("GET", "/shop")[1]["own_parts"] == []

    def test_what_is_no_text_or_too_long_is_refused(self, api: Api) -> None:
        assert api.upload("/shop/catalogue", b"\xff\xfe\x00")[0] == 422
        long = b"key,cost,lead_days\n" + b"x" * 200_000 + b",1,2\n"
        status, told = api.upload("/shop/catalogue", long)
        assert status == 422 and fields(told) == ["file"]
        assert api.upload("/shop/catalogue", b"key,cost,lead_days\n" * 20_000)[0] == 422


def test_a_bender_is_remembered(api: Api, other_api: Api) -> None:
    assert api("GET", "/shop/bender")[1]["own"] is False
    mine = {"springback_pct": 4.5, "stretch_mm": 1.2, "flare_mm": 3, "spare_mm": 120}
    assert api("PUT", "/shop/bender", mine) == (200, {**mine, "own": True})
    assert other_api("GET", "/shop/bender")[1]["own"] is False
    status, told = api("PUT", "/shop/bender", {**mine, "springback_pct": -1})
    assert status == 422 and fields(told) == ["springback_pct"]


class TestOwnParts:
    LUBE: ClassVar[dict[str, Any]] = {
        "words": "assembly lube",
        "per": "piece",
        "cost": 9.5,
        "lead_days": 40,
    }

    def test_one_is_added_said_anew_and_taken_out(self, api: Api, other_api: Api) -> None:
        status, told = api("PUT", "/shop/own/own_lube", self.LUBE)
        assert status == 200 and told["own_parts"][0]["words"] == "assembly lube"
        assert api("PUT", "/shop/own/own_lube", {**self.LUBE, "cost": 11})[1]["own_parts"][0][
            "cost"
        ] == 11.0  # fmt: skip
        assert other_api("DELETE", "/shop/own/own_lube")[0] == 404
        status, told = api("PUT", "/shop/own/lube", {**self.LUBE, "end_1": "flare 7 male"})
        assert status == 422 and fields(told) == ["key", "end_1", "end_2", "height_mm"]
        assert api("PUT", "/shop/own/own_lube", {**self.LUBE, "cost": -1})[0] == 422
        assert api("DELETE", "/shop/own/own_lube")[1]["own_parts"] == []
        assert api("DELETE", "/shop/own/own_lube")[0] == 404

    def test_bought_besides_it_is_on_the_order_and_its_lead_time_counts(
        self, api: Api, other_api: Api, user: User, plain_build: Build
    ) -> None:
        stage = f"/stages/lines/{plain_build.pk}"
        assert api("PUT", f"{stage}/besides/own_lube", {"count": 2})[0] == 404
        api("PUT", "/shop/own/own_lube", self.LUBE)
        before = api("GET", stage)[1]
        status, told = api("PUT", f"{stage}/besides/own_lube", {"count": 2, "why": "first start"})
        assert status == 200 and told["wait_days"] == 40 > before["wait_days"]
        row = next(row for row in told["lines"]["order"] if row["part"] == "own_lube")
        assert (row["count"], row["price"], row["why"]) == (2, 19.0, ["first start"])
        assert told["besides"] == [{"part": "own_lube", "count": 2.0, "why": "first start"}]
        assert other_api("PUT", f"{stage}/besides/own_lube", {"count": 2})[0] == 404
        _, told = api("PUT", f"{stage}/order/own_lube", {"how_far": "have"})
        assert told["wait_days"] == before["wait_days"]
        assert "assembly lube" in api.client.get(f"/api{stage}/csv").content.decode()
        assert api("PUT", f"{stage}/besides/own_lube", {"count": -1})[0] == 422
        _, told = api("PUT", f"{stage}/besides/own_lube", {"count": 0})
        assert told["besides"] == [] and told["ticks"][0]["wanted"] == 0
        # a part that is taken out of the catalogue goes off every order, its tick with it
        api("PUT", f"{stage}/besides/own_lube", {"count": 1})
        api("DELETE", "/shop/own/own_lube")
        _, told = api("GET", stage)
        assert told["besides"] == [] and told["ticks"] == []

    def test_there_are_only_so_many(
        self, api: Api, plain_build: Build, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        monkeypatch.setattr(services, "MOST_OWN", 1)
        monkeypatch.setattr(services, "MOST_BESIDES", 1)
        assert api("PUT", "/shop/own/own_lube", self.LUBE)[0] == 200
        status, told = api("PUT", "/shop/own/own_paste", self.LUBE)
        assert status == 422 and fields(told) == ["key"]
        assert len(api("GET", "/shop")[1]["own_parts"]) == 1
        besides = f"/stages/lines/{plain_build.pk}/besides"
        assert api("PUT", f"{besides}/own_lube", {"count": 1})[0] == 200
        status, told = api("PUT", f"{besides}/tee", {"count": 1})
        assert status == 422 and fields(told) == ["part"]
        assert len(api("GET", f"/stages/lines/{plain_build.pk}")[1]["besides"]) == 1
