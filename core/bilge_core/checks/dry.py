"""A dry sump held against its rules: what is there, before anything is run."""

from __future__ import annotations

import networkx as nx

from bilge_core.document.build import Build
from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.errors import InvalidInput
from bilge_core.network import held_running
from bilge_core.pan import assemble_pan
from bilge_core.rules import Check, dry
from bilge_core.scavenge.drive import drive_of
from bilge_core.scavenge.stages import scavenge_ratio, scavenged
from bilge_core.scavenge.tank import tank_of, tank_space


def check_dry(build: Build) -> tuple[Check, ...]:
    """Whether a dry sump can work: stages, vent, where they lead, tank against lines.

    Parameters
    ----------
    build : Build

    Returns
    -------
    tuple of Check
        Empty for a wet sump.

    Raises
    ------
    InvalidInput
        If its pan cannot be assembled, or no stage draws from it.
    """
    circuit = build.circuit
    if not circuit.is_dry:
        return ()
    places = {each.id: f"circuit.components.{at}" for at, each in enumerate(circuit.components)}
    found = []
    ways = nx.DiGraph((run.start.component, run.end.component) for run in circuit.runs
                      if run.service == "return")  # fmt: skip
    tank = tank_of(build)
    for stage in circuit.of_kind(ScavengeStage):
        reached = nx.descendants(ways, stage.id) if stage.id in ways else set()
        if tank.id not in reached:
            found.append(dry.check_leads_on(stage.name, places[stage.id]))
    out = any(
        run.service == "vent" and tank.id in (run.start.component, run.end.component)
        and not _from_separator(build, run.start.component)
        for run in circuit.runs
    )  # fmt: skip
    found.append(dry.check_breathes(out, tank.name, places[tank.id]))
    running, room = held_running(build), tank_space(tank).volume
    held = running.pressed + running.coming_back
    if room < held:
        field = f"{places[tank.id]}.volume_l"
        found.append(dry.check_tank_size(tank.name, room, held, field))
    stages, _ = scavenged(build, assemble_pan(build))
    found += [
        dry.check_mouths(each.name, len(each.mouths), places[each.component])
        for each in stages
        if len(each.mouths) > 1
    ]
    pump = circuit.pump
    ratio = scavenge_ratio(circuit)
    found.append(dry.check_ratio(ratio, f"{places[pump.id]}.displacement_cm3"))
    return (*found, *check_drive(build))


def check_drive(build: Build) -> tuple[Check, ...]:
    """Whether a belt drive can run: in line, taut, enough teeth in the belt, at its ratio.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> check_drive(read_build(Path("demo/dunlin.json").read_text()))
    ()
    """
    if build.drive is None:
        return ()
    try:
        found = drive_of(build.drive)
    except InvalidInput as error:
        return tuple(
            Check("bad", f"The pulleys {each.message}", each.field, dry.BELT_TAUT)
            for each in error.problems
        )
    idler = () if build.drive.idler is None else (dry.check_idler(found.touches),)
    return (
        dry.check_belt_line(found.out_of_line, found.offset),
        dry.check_mesh(found.meshing, found.fewest),
        dry.check_taut(found.move, build.drive.travel_mm * 1e-3),
        dry.check_drive_ratio(found.ratio, build.circuit.pump.drive_ratio),
        *idler,
    )


def _from_separator(build: Build, component: str) -> bool:
    part = build.circuit.component(component)
    return part is not None and part.kind == "separator"
