"""Things taken out of the circuit with all that came with them, and single ports plugged."""

from __future__ import annotations

from typing import Literal

from typing_extensions import override

from bilge_core.acts.act import Act, Done
from bilge_core.acts.plumbing import Plumbing, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.kinds import CLASSES
from bilge_core.document.ids import Document

STAYS = frozenset(
    {"pan_region", "pickup", "pressure_stage", "gallery", "head", "crankcase", "filter"}
)
"""Without which there is no engine; a filter on the block is moved, not taken out."""

THROUGH = {
    "relief": ("inlet", "outlet"),
    "regulator": ("inlet", "outlet"),
    "sandwich_plate": ("inlet", "outlet"),
    "thermostat": ("inlet", "outlet"),
    "cooler": ("inlet", "outlet"),
    "plate_cooler": ("inlet", "outlet"),
    "check_valve": ("inlet", "outlet"),
    "separator": ("inlet", "outlet"),
    "scavenge_stage": ("inlet", "outlet"),
    "shut_off_valve": ("a", "b"),
    "sender_tee": ("a", "b"),
    "bulkhead": ("a", "b"),
    "restrictor": ("a", "b"),
    "tee": ("a", "b"),
    "catch_can": ("gas_in", "gas_out"),
}
"""What sits in a line: the line goes on without it."""


class TakeOut(Act):
    """A component taken out with its lines; the line it sat in goes on without it.

    What is then of no use goes with it: the tee, the valve and the check valve of a bottle, the
    plate or the thermostat of a cooler, the restrictor of a turbo, the plate of a remote filter,
    the pickup of a stage that clears the pan.
    """

    kind: Literal["take_out"]
    component: str

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        part = circuit.component(self.component)
        if part["kind"] in STAYS:
            raise refused("component", f"cannot be taken out: {part['name']} belongs to the engine")
        self._take(circuit, part)
        return circuit.done(f"{part['name']} taken out"[:200])

    def _take(self, circuit: Plumbing, part: Document) -> None:
        if part["kind"] in ("remote_filter", "take_off_plate"):
            _filter_back(circuit)
        elif (pickup := _pickup_of(circuit, part)) is not None:
            _take_stage(circuit, part, pickup)
        elif _sits_in_line(circuit, part) and not _is_looped(circuit, part):
            if part["kind"] in _COOLERS:
                _refuse_a_bare_loop(circuit, part)
            _close_line(circuit, part)
        else:
            if part["kind"] == "tee" and _joins_two(circuit, part):
                words = "brings lines together that have no other way: take out what one comes from"
                raise refused("component", words)
            neighbours = [
                circuit.component(end["component"])
                for run in circuit.runs_at(part)
                for end in (run["start"], run["end"])
            ]
            circuit.drop(part)
            for each in neighbours:
                _prune(circuit, each)


def _pickup_of(circuit: Plumbing, part: Document) -> Document | None:
    """The pickup in the pan that a scavenge stage draws by; None of anything else."""
    into = circuit.run_into(part, "inlet") if part["kind"] == "scavenge_stage" else None
    if into is None:
        return None
    before = circuit.component(into["start"]["component"])
    return before if before["kind"] == "pickup" else None


def _take_stage(circuit: Plumbing, stage: Document, pickup: Document) -> None:
    """A stage that clears the pan goes with its pickup; what the others bring goes on."""
    stages = circuit.of_kind("scavenge_stage")
    if not any(each is not stage and _pickup_of(circuit, each) for each in stages):
        raise refused("component", "is the only stage that clears the pan: the tank would run dry")
    out = circuit.run_from(stage, "outlet")
    circuit.drop(stage)
    circuit.drop(pickup)
    if out is not None:
        _prune(circuit, circuit.component(out["end"]["component"]))


def _joins_two(circuit: Plumbing, tee: Document) -> bool:
    return len([run for run in circuit.runs if run["end"]["component"] == tee["id"]]) > 1


def _sits_in_line(circuit: Plumbing, part: Document) -> bool:
    if part["kind"] not in THROUGH:
        return False
    entry, leave = THROUGH[part["kind"]]
    return bool(circuit.run_into(part, entry) and circuit.run_from(part, leave))


def _is_looped(circuit: Plumbing, part: Document) -> bool:
    """Whether it hangs on a plate's or a thermostat's two cooler ports, alone."""
    if part["kind"] not in _COOLERS:
        return False
    into, out = circuit.run_into(part, "inlet"), circuit.run_from(part, "outlet")
    assert into is not None and out is not None
    return (into["start"]["port"], out["end"]["port"]) == ("cooler_out", "cooler_in")


_COOLERS = frozenset({"cooler", "plate_cooler"})


def _refuse_a_bare_loop(circuit: Plumbing, part: Document) -> None:
    """Other things in a plate's loop would be left without the cooler that it is there for."""
    into, out = circuit.run_into(part, "inlet"), circuit.run_from(part, "outlet")
    assert into is not None and out is not None
    ends = [
        circuit.component(run[end]["component"]) for run, end in ((into, "start"), (out, "end"))
    ]
    at_plate = into["start"]["port"] == "cooler_out" or out["end"]["port"] == "cooler_in"
    if at_plate and not any(end["kind"] in _COOLERS for end in ends):
        raise refused("component", "has other things in its lines: take those out first")


def _drop_loop(circuit: Plumbing, plate: Document) -> None:
    """The coolers that hang on a plate's or a thermostat's two ports go with it."""
    run, loop = circuit.run_from(plate, "cooler_out"), list[Document]()
    while run is not None and run["end"]["component"] != plate["id"]:
        part = circuit.component(run["end"]["component"])
        if part["kind"] not in _COOLERS:
            raise refused("component", "has other things in its lines: take those out first")
        loop.append(part)
        run = circuit.run_from(part, "outlet")
    for part in loop:
        circuit.drop(part)


def _close_line(circuit: Plumbing, part: Document) -> None:
    """The line goes on without it; what hung on its other ports goes with it."""
    entry, leave = THROUGH[part["kind"]]
    into = circuit.run_into(part, entry)
    if part["kind"] in ("sandwich_plate", "thermostat"):
        _drop_loop(circuit, part)
    others = [
        run
        for run in circuit.runs_at(part)
        if run is not into and run is not circuit.run_from(part, leave)
    ]
    far = []
    for run in others:
        ends = (run["start"], run["end"])
        same = [end for end in ends if end["component"] == part["id"] and end["port"] == entry]
        if same:  # several lines into one place: they go on as well
            run["end"] |= (circuit.run_from(part, leave) or run)["end"]
            continue
        far += [circuit.component(e["component"]) for e in ends if e["component"] != part["id"]]
        circuit.drop_run(run)
    if part["kind"] == "scavenge_stage":  # what it pulled falls by itself
        pulled = circuit.run_into(part, entry)
        assert pulled is not None
        pulled["service"] = "drain"
    if part["kind"] == "tee":
        _without_tee(circuit, part)
    else:
        circuit.splice(part, entry, leave)
    for each in far:
        _prune(circuit, each)


def _filter_back(circuit: Plumbing) -> None:
    """A remote filter's plate and lines go, and the filter is on the block again."""
    base, plates = circuit.only("remote_filter"), circuit.of_kind("take_off_plate")
    if not plates or not (
        circuit.run_into(plates[0], "inlet") and circuit.run_from(plates[0], "outlet")
    ):
        raise refused("component", "feeds the gallery directly: that has no filter without it")
    plate = plates[0]
    back = circuit.run_into(plate, "line_in")
    if back is None or back["start"]["component"] != base["id"]:
        raise refused(
            "component", "has other things in its lines: take those out first, then the filter"
        )
    own = circuit.add(
        "filter", "filter", after=plate, bypass_bar=base["bypass_bar"], drop=base["drop"],
        holds_l=base["holds_l"],
    )  # fmt: skip
    for run, end, port in (
        (circuit.run_into(plate, "inlet"), "end", "inlet"),
        (circuit.run_from(plate, "outlet"), "start", "outlet"),
    ):
        assert run is not None
        run[end] |= {"component": own["id"], "port": port}
    circuit.drop(base)
    circuit.drop(plate)


def _prune(circuit: Plumbing, part: Document) -> None:
    """What is of no use once a neighbour has gone."""
    if part not in circuit.components:
        return
    runs = circuit.runs_at(part)
    joined = {
        end["port"] for run in runs for end in (run["start"], run["end"])
        if end["component"] == part["id"]
    }  # fmt: skip
    kind = part["kind"]
    if not joined and kind not in STAYS:
        circuit.drop(part)
    elif kind in ("sandwich_plate", "thermostat") and not joined & {"cooler_out", "cooler_in"}:
        circuit.splice(part, "inlet", "outlet")
    elif kind == "tee" and len(joined) == 2:
        _without_tee(circuit, part)
    elif kind in ("shut_off_valve", "restrictor", "bulkhead", "sender_tee", "check_valve",
                  "scavenge_stage") and len(joined) < 2:  # fmt: skip
        far = [
            circuit.component(end["component"])
            for run in runs for end in (run["start"], run["end"])
            if end["component"] != part["id"]
        ]  # fmt: skip
        circuit.drop(part)
        for each in far:
            _prune(circuit, each)
    else:
        single = [
            each.key for each in CLASSES[kind].PORTS
            if not each.many and each.key not in joined and each.key not in part["plugged"]
        ]  # fmt: skip
        circuit.plug(part, *single)


def _without_tee(circuit: Plumbing, tee: Document) -> None:
    """A tee with two ways left is a piece of line; its branch's check valve goes too."""
    into = [run for run in circuit.runs if run["end"]["component"] == tee["id"]]
    out = [run for run in circuit.runs if run["start"]["component"] == tee["id"]]
    if len(into) == 1 and len(out) == 1:
        circuit.splice(tee, into[0]["end"]["port"], out[0]["start"]["port"])
        before = circuit.component(into[0]["start"]["component"])
        if before["kind"] == "check_valve" and _sits_in_line(circuit, before):
            circuit.splice(before, "inlet", "outlet")


class PlugPort(Act):
    """A port plugged, or its plug taken out."""

    kind: Literal["plug_port"]
    component: str
    port: str
    plugged: bool

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        part = circuit.component(self.component)
        if not circuit.has_port(part, self.port):
            keys = ", ".join(each.key for each in CLASSES[part["kind"]].PORTS)
            raise refused("port", f"must be one of {keys}")
        if self.plugged and (
            circuit.run_into(part, self.port) or circuit.run_from(part, self.port)
        ):
            raise refused("port", "is joined: a line must come off before it is plugged")
        plugged = [key for key in part["plugged"] if key != self.port]
        part["plugged"] = [*plugged, self.port] if self.plugged else plugged
        said = "plugged" if self.plugged else "opened"
        return circuit.done(f"{part['name']}: {self.port.replace('_', ' ')} {said}")
