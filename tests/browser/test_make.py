"""Make: the pan as sheet and as solids, written out; a mesh and a flat drawing read in again."""

from __future__ import annotations

import base64
import io
from pathlib import Path

import ezdxf
import pytest
import trimesh
from accounts.services import open_account
from bilge_core.document.build import Build as BuildDocument
from bilge_core.pan import assemble_pan
from builds.models import Build
from builds.selectors import document_of
from builds.services import add_build, checked_document

from tests.browser.conftest import Page
from tests.browser.labels import faults
from tests.conftest import DEMO

pytestmark = pytest.mark.django_db(transaction=True)

_FETCH = """
const done = arguments[1];
fetch(arguments[0]).then((answer) => answer.arrayBuffer()).then((bytes) =>
  done(btoa(Array.from(new Uint8Array(bytes), (each) => String.fromCharCode(each)).join(""))));
"""


@pytest.fixture
def build(db: None) -> Build:
    ada = open_account("ada", "bearing-shell-9", "Reed Lane Garage")
    return add_build(
        ada, checked_document((DEMO / "dunlin.json").read_bytes()), "from a file", None
    )


@pytest.fixture
def pan(page: Page, build: Build) -> Page:
    page.sign_in("ada", "bearing-shell-9")
    page.says("No lap yet")
    page.goto(f"/builds/{build.pk}/pan")
    page.says("Checks on this pan")
    return page


def written(page: Page, words: str) -> bytes:
    """What a link of the page brings."""
    link = page.by_words("a", words).get_attribute("href")
    return base64.b64decode(page.driver.execute_async_script(_FETCH, link))


def now(build: Build) -> BuildDocument:
    build.refresh_from_db()
    return document_of(build)


def litres(build: Build) -> float:
    return float(assemble_pan(now(build)).capacity_to_rail) * 1e3


def test_a_pan_is_bent_and_cut(pan: Page, build: Build) -> None:
    pan.click("button", "Make")
    pan.says("Before it is cut")
    assert pan.serious_faults() == [] and faults(pan) == []
    apart = len(pan.driver.find_elements("css selector", "[aria-label=Edges] input"))
    assert apart > 3
    welded = ezdxf.read(io.StringIO(written(pan, "All as DXF").decode()))
    assert not welded.audit().errors
    assert len(welded.modelspace().query("*[layer=='BEND']")) == 0
    first = pan.find("[aria-label=Edges] input")
    label = first.get_attribute("aria-label")
    pan.driver.execute_script("arguments[0].click()", first)
    pan.says("State 2")
    pan.until(lambda: len(now(build).pan.making.bent) == 1)  # type: ignore[union-attr]
    pan.until(lambda: pan.find(f"[aria-label='{label}']").is_selected())
    bent = ezdxf.read(io.StringIO(written(pan, "All as DXF").decode()))
    assert len(bent.modelspace().query("*[layer=='BEND']")) > 0
    pan.click("button", "Undo")
    pan.until(lambda: not pan.find(f"[aria-label='{label}']").is_selected())


@pytest.mark.parametrize("width", [1280, 390])
def test_its_inside_comes_back_as_a_mesh(
    pan: Page, build: Build, tmp_path: Path, width: int
) -> None:
    drawn = litres(build)
    pan.click("button", "Make")
    pan.says("Print it or mill it")
    pan.until(lambda: pan.driver.find_element("xpath", "//label[contains(., 'As a solid')]/select"))
    choice = pan.driver.find_element("xpath", "//label[contains(., 'As a solid')]/select")
    choice.send_keys("the space inside it")
    pan.until(lambda: "what=inside" in str(pan.by_words("a", "STL").get_attribute("href")))
    mesh = tmp_path / "inside.stl"
    mesh.write_bytes(written(pan, "STL"))
    assert trimesh.load_mesh(mesh).is_watertight

    pan.size(width, 844)
    pan.goto(f"/builds/{build.pk}/pan")
    pan.says("From a scan or a drawing in 3D")
    pan.click("summary", "From a scan or a drawing in 3D")
    pan.give(DEMO / "dunlin.json", "Mesh of the inside")
    pan.says("must be one of stl, 3mf, obj")
    pan.give(mesh, "Mesh of the inside")
    pan.says("but for two places in a hundred")
    assert pan.fits(width)
    assert pan.serious_faults() == [] and faults(pan) == []
    pan.click("button", "Make it this pan")
    pan.says("It is this build's pan now.")
    assert litres(build) == pytest.approx(drawn, rel=2e-3)
    assert now(build).pan.zones[0].floor.kind == "surface"
    pan.click("button", "Undo")
    pan.until(lambda: now(build).pan.zones[0].floor.kind != "surface")


def test_a_flange_comes_in_from_a_drawing(pan: Page, build: Build, tmp_path: Path) -> None:
    drawing = ezdxf.new(units=ezdxf.units.MM)
    sheet = drawing.modelspace()
    sheet.add_lwpolyline([(0, 0), (400, 0), (400, 240), (0, 240)], close=True)
    sheet.add_lwpolyline([(20, 20), (380, 20), (380, 220), (20, 220)], close=True)
    for x in (10, 200, 390):
        for y in (10, 230):
            sheet.add_circle((x, y), 3.25)
    path = tmp_path / "flange.dxf"
    drawing.saveas(path)

    pan.click("summary", "Flange from a flat drawing")
    pan.give(path, "Drawing of the flange")
    pan.says("6 round holes")
    pan.says("439.1 mm: measure that on the engine")  # hypot(380, 220)
    assert pan.serious_faults() == [] and faults(pan) == []
    pan.click("button", "Lay it as the flange")
    pan.says("Laid. Undo takes it back.")
    flange = now(build).pan.flange
    assert flange is not None and len(flange.bolts) == 6
    pan.click("button", "Begin the pan with its opening")
    pan.until(lambda: litres(build) == pytest.approx(0.36 * 0.2 * 0.12 * 1e3, rel=1e-3))
