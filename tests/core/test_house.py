"""The house: how large its parts may be, which way they know each other, how a stage is added."""

from __future__ import annotations

import ast
import json
import os
import re
import shutil
import subprocess
import sys
import tomllib
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.conftest import ROOT

MOST_LINES, MOST_OF_A_FUNCTION, MOST_ARGUMENTS = 400, 60, 8
"""The web's own are in web/eslint.config.js."""

SOURCES = [
    path
    for folder in ("core", "server", "launch", "demo", "docs", "tests")
    for path in sorted((ROOT / folder).rglob("*.py"))
    if "migrations" not in path.parts
]


def functions(path: Path) -> Iterator[ast.FunctionDef | ast.AsyncFunctionDef]:
    """All but compiled kernels, which are long so that nothing is counted twice in a loop, and what
    is written straight into them: it takes numbers one by one, as its place in a loop has them."""
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef) and not any(
            re.search("njit|intrinsic", ast.unparse(each)) for each in node.decorator_list
        ):
            yield node


def lines_of(node: ast.FunctionDef | ast.AsyncFunctionDef) -> int:
    """Of code: its docstring left out."""
    assert node.end_lineno is not None
    lines = node.end_lineno - node.lineno + 1
    first = node.body[0]
    if ast.get_docstring(node) is not None:
        assert first.end_lineno is not None
        lines -= first.end_lineno - first.lineno + 1
    return lines


def arguments_of(node: ast.FunctionDef | ast.AsyncFunctionDef) -> int:
    every = [*node.args.posonlyargs, *node.args.args, *node.args.kwonlyargs]
    return len([each for each in every if each.arg not in ("self", "cls")])


def test_no_file_is_too_long() -> None:
    long = {str(path): path.read_text().count("\n") for path in SOURCES}
    assert {path: lines for path, lines in long.items() if lines > MOST_LINES} == {}


def test_no_function_is_too_long_or_takes_too_much() -> None:
    found = [
        f"{path.relative_to(ROOT)}: {node.name}: {lines_of(node)} lines, {arguments_of(node)} taken"
        for path in SOURCES
        for node in functions(path)
        if lines_of(node) > MOST_OF_A_FUNCTION or arguments_of(node) > MOST_ARGUMENTS
    ]
    assert found == []


def contracts() -> list[dict[str, object]]:
    project = tomllib.loads((ROOT / "pyproject.toml").read_text())
    return list(project["tool"]["importlinter"]["contracts"])


def packages_in(folder: Path) -> set[str]:
    return {path.name for path in folder.iterdir() if path.is_dir() and any(path.glob("*.py"))} - {
        "__pycache__"
    }


def test_every_package_of_the_server_has_its_layer() -> None:
    """The core's contract is exhaustive by itself; the server's packages are several roots."""
    (layers,) = (
        each["layers"] for each in contracts() if each["name"] == "Server apps point one way"
    )
    assert isinstance(layers, list)
    named = {layer.split(".")[0] for layer in layers}
    assert named == packages_in(ROOT / "server")
    project = tomllib.loads((ROOT / "pyproject.toml").read_text())
    assert packages_in(ROOT / "server") <= set(project["tool"]["importlinter"]["root_packages"])
    assert packages_in(ROOT / "server") <= set(project["tool"]["mypy"]["packages"])


def test_every_module_behind_the_calls_is_held_to_know_none() -> None:
    name = "What answers calls is known by no service"
    (contract,) = (each for each in contracts() if each["name"] == name)
    wanted = {
        f"{app}.{path.stem}"
        for app in packages_in(ROOT / "server") - {"config", "stages"}
        for path in (ROOT / "server" / app).glob("*.py")
        if path.stem not in ("__init__", "api", "schemas", "requests")
    }
    assert isinstance(contract["source_modules"], list)
    assert set(contract["source_modules"]) == wanted


def test_the_cores_layers_are_exhaustive() -> None:
    (contract,) = (each for each in contracts() if each.get("containers") == ["bilge_core"])
    assert contract["exhaustive"] is True


def test_modules_of_the_core_have_names_of_one_meaning() -> None:
    """Those that had two: each at most once. A circuit is the oil's, and nothing else."""
    core = ROOT / "core" / "bilge_core"
    modules = [path.relative_to(core) for path in SOURCES if core in path.parents]
    by_name: dict[str, list[str]] = {}
    for module in modules:
        by_name.setdefault(module.stem, []).append(str(module.parent))
    for name in ("frames", "dips", "spring", "clearance", "around", "pressure", "axes"):
        assert len(by_name.get(name, [])) <= 1, (name, by_name[name])


API = '''"""A stage for a trial."""

from __future__ import annotations

from accounts.requests import signed_in
from django.http import HttpRequest
from ninja import Router, Schema

router = Router()


class TrialOut(Schema):
    """What it answers."""

    workshop: str


@router.get("/{int:build_id}", response=TrialOut, operation_id="get_trial")
def get_trial(request: HttpRequest, build_id: int) -> TrialOut:
    """Nothing much."""
    return TrialOut(workshop=signed_in(request).workshop.name)
'''


def test_a_thirteenth_stage_is_a_folder_on_the_server(tmp_path: Path) -> None:
    """One folder more in server/stages: the API has it, and no other file was touched."""
    stages = tmp_path / "stages"
    shutil.copytree(ROOT / "server" / "stages", stages)
    (stages / "trial_stage").mkdir()
    (stages / "trial_stage" / "__init__.py").write_text('"""A stage for a trial."""\n')
    (stages / "trial_stage" / "api.py").write_text(API)
    say = (
        "import django, json; django.setup(); from config.api import api;"
        "print(json.dumps(sorted(api.get_openapi_schema()['paths'])))"
    )
    places = (tmp_path, ROOT / "core", ROOT / "server", ROOT)
    done = subprocess.run(
        [sys.executable, "-c", say],
        capture_output=True,
        text=True,
        cwd=tmp_path,
        env={**os.environ, "PYTHONPATH": os.pathsep.join(map(str, places))},
        check=False,
    )
    assert done.returncode == 0, done.stderr
    paths = json.loads(done.stdout.splitlines()[-1])
    assert "/api/stages/trial-stage/{build_id}" in paths
    assert "/api/stages/slosh/{build_id}" in paths


INDEX = """import type { Stage } from "../../document/stage";

export const stage: Stage = {
  key: "trial",
  name: "Trial",
  group: "Do",
  order: 130,
  words: "A stage for a trial.",
  useRail: () => ({ mark: "nothing", word: "" }),
  load: async () => ({ default: (await import("./Trial")).Trial }),
};
"""
SCREEN = """import type { ReactElement } from "react";
import { useBuildView } from "../../document/BuildContext";

/** A stage for a trial. */
export function Trial(): ReactElement {
  return <p>{useBuildView().build.name}</p>;
}
"""
LOOK = """// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { Suspense } from "react";
import { expect, it, vi } from "vitest";
import { JobRail } from "./JobRail";
import { SCREENS, STAGES } from "./registry";
import { showInBuild } from "../testing/view";

vi.mock("../api/queries", async (original) => ({
  ...(await original()),
  usePan: () => ({ data: undefined }),
}));

it("has a thirteenth stage, in the rail and with its screen", async () => {
  expect(STAGES.map(({ key }) => key).at(-1)).toBe("trial");
  expect(STAGES).toHaveLength(13);
  const Screen = SCREENS.trial ?? (() => null);
  showInBuild(
    <>
      <JobRail buildId={7} />
      <Suspense>
        <Screen />
      </Suspense>
    </>,
  );
  expect(screen.getAllByRole("link").at(-1)?.getAttribute("href")).toBe("/builds/7/trial");
  expect(await screen.findByText("Dunlin, plates and gates")).toBeTruthy();
});
"""


TYPED = ["src/stages/trial/index.ts", "src/app/trial.test.tsx"]
"""Files that are typed with all they import; all others are by the suite's own check."""


@pytest.fixture
def web(tmp_path: Path) -> Path:
    """The web with one folder more, and the tools of this one."""
    there = tmp_path / "web"
    shutil.copytree(ROOT / "web" / "src", there / "src")
    for name in ("tsconfig.json", "vite.config.ts", "vitest.config.ts", "package.json"):
        shutil.copy(ROOT / "web" / name, there / name)
    (there / "node_modules").symlink_to(ROOT / "web" / "node_modules")
    (tmp_path / "demo").symlink_to(ROOT / "demo")
    (there / "src" / "stages" / "trial").mkdir()
    (there / "src" / "stages" / "trial" / "index.ts").write_text(INDEX)
    (there / "src" / "stages" / "trial" / "Trial.tsx").write_text(SCREEN)
    (there / "src" / "app" / "trial.test.tsx").write_text(LOOK)
    of_it = {"extends": "./tsconfig.json", "include": [], "files": TYPED}
    (there / "tsconfig.trial.json").write_text(json.dumps(of_it))
    return there


def test_a_thirteenth_stage_is_a_folder_on_the_web(web: Path) -> None:
    """One folder more in web/src/stages: in the rail, typed, and no other file was touched."""
    for command in (
        ["tsc", "--noEmit", "-p", "tsconfig.trial.json"],
        ["vitest", "run", "src/app/trial.test.tsx"],
    ):
        tool = ROOT / "web" / "node_modules" / ".bin" / command[0]
        done = subprocess.run(
            [str(tool), *command[1:]], cwd=web, capture_output=True, text=True, check=False
        )
        assert done.returncode == 0, done.stdout + done.stderr


def test_no_two_things_are_told_under_one_name() -> None:
    """The API's description knows what it tells by name alone: two of one name would be one."""
    told = [
        node.name
        for folder in ("core", "server")
        for path in sorted((ROOT / folder).rglob("*.py"))
        for node in ast.parse(path.read_text()).body
        if isinstance(node, ast.ClassDef) and node.name.endswith(("Out", "In"))
    ]
    assert sorted({name for name in told if told.count(name) > 1}) == []


CHANGED_IN_PLACE = {
    "agreement.live", "job.gathered", "moving.coupled", "moving.fields", "moving.returns",
    "moving.sheets", "moving.simulation", "network.draft", "network.layout", "network.parts",
}  # fmt: skip
"""Where something is filled or moved on step by step."""


def test_what_answers_are_kept_from_is_frozen() -> None:
    """Answers are remembered and shared: nobody changes one that another holds."""
    core = ROOT / "core" / "bilge_core"
    loose = {
        ".".join(path.relative_to(core).with_suffix("").parts)
        for path in core.rglob("*.py")
        for node in ast.walk(ast.parse(path.read_text()))
        if isinstance(node, ast.ClassDef)
        and any("dataclass" in (said := ast.unparse(each)) and "frozen=True" not in said
                for each in node.decorator_list)
    }  # fmt: skip
    assert loose == CHANGED_IN_PLACE
