"""Reading logged laps, looking at them first and keeping them."""

from __future__ import annotations

import io
import math

import numpy as np
from accounts.models import User
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.loads.channels import CHANNELS, POSITIVE_WORDS, Column, Mapping
from bilge_core.loads.facts import LogFacts, log_facts
from bilge_core.loads.importing import LogFile, open_log, read_log
from bilge_core.loads.line import driven_line
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.manoeuvres import Kind, Manoeuvre, manoeuvre_log, with_grip
from bilge_core.quantities import KINDS
from ninja.files import UploadedFile

from loads.models import Lap
from loads.schemas import ChannelOut, Columns, FieldFault, GripIn, LapIn, LapPreviewOut, ManoeuvreIn
from loads.selectors import lap_of

_LINE_POINTS = 400


def _mapping(file: LogFile, columns: Columns | None) -> Mapping:
    if columns is None:
        return file.proposal
    return {
        name: Column(heading=column.heading, unit=column.unit, positive=column.positive)
        for name, column in columns.items()
        if column.heading
    }


def _channels(mapping: Mapping) -> list[ChannelOut]:
    rows = []
    for name, channel in CHANNELS.items():
        column = mapping.get(name)
        rows.append(
            ChannelOut(
                name=name,
                label=channel.label,
                units=[unit for unit in KINDS[channel.kind].units if unit],
                positive_choices=list(POSITIVE_WORDS.get(name, ())),
                heading=column.heading if column else "",
                unit=column.unit if column else "",
                positive=column.positive if column else None,
            )
        )
    return rows


def preview_lap(upload: UploadedFile, columns: Columns | None) -> LapPreviewOut:
    """Say what a file was understood to hold; faults of single columns are listed, not raised.

    Raises
    ------
    InvalidInput
        If the file is no delimited text with headings.
    """
    file = open_log(upload.read())
    mapping = _mapping(file, columns)
    facts: LogFacts | None = None
    faults: list[FieldFault] = []
    line: list[tuple[float, float]] = []
    try:
        log = prepare(read_log(file, mapping))
        facts = log_facts(log)
        line = thinned_line(log)
    except InvalidInput as error:
        faults = [FieldFault(field=p.field, message=p.message) for p in error.problems]
    return LapPreviewOut(
        headings=list(file.headings),
        channels=_channels(mapping),
        faults=faults,
        sentences=list(facts.sentences) if facts else [],
        doubts=list(facts.doubts) if facts else [],
        line_m=line,
    )


def thinned_line(log: Log) -> list[tuple[float, float]]:
    """The line driven [m], at most a few hundred points, for drawing."""
    line = driven_line(log)
    chosen = np.linspace(0, len(line) - 1, min(_LINE_POINTS, len(line))).astype(int)
    return [(round(float(x), 1), round(float(y), 1)) for x, y in line[chosen]]


def keep_lap(user: User, upload: UploadedFile, lap: LapIn) -> Lap:
    """Read a file with the columns given and keep the lap in the user's workshop.

    Raises
    ------
    InvalidInput
        Naming line and column; nothing is kept then.
    """
    return store_lap(user, lap.name, upload.name or "lap.csv", upload.read(), lap.columns)


def store_lap(user: User, name: str, file_name: str, data: bytes, columns: Columns | None) -> Lap:
    """Read and keep a lap; columns None takes the headings at their word."""
    file = open_log(data)
    mapping = _mapping(file, columns)
    log = prepare(read_log(file, mapping))
    if log.duration < 5.0:
        raise InvalidInput(
            [Problem("file", f"lasts {log.duration:.1f} s; a lap needs at least 5 s")]
        )
    columns_used: dict[str, object] = {key: c.model_dump() for key, c in mapping.items()}
    return _keep(user, name.strip() or "Lap", file_name[-200:], columns_used, log)


_KIND_WORDS: dict[Kind, str] = {
    "corner": "Corner",
    "braking": "Braking",
    "launch": "Launch",
    "chicane": "Chicane",
    "drift": "Drift",
    "skid_pad": "Skid-pad",
    "hill": "Hill",
}
_STRAIGHT: tuple[Kind, ...] = ("braking", "launch", "hill")


def keep_manoeuvre(user: User, wanted: ManoeuvreIn) -> Lap:
    """Make a manoeuvre and keep it among the workshop's laps.

    Raises
    ------
    InvalidInput
        If its figures make no sense.
    """
    try:
        log = manoeuvre_log(
            Manoeuvre(
                wanted.kind,
                wanted.hand,
                wanted.level_g,
                wanted.ramp_s,
                wanted.hold_s,
                wanted.engine_speed_rpm * math.pi / 30.0,
            )
        )
    except InvalidQuantity as error:
        raise InvalidInput([Problem(error.name, f"must be {error.requirement}")]) from None
    hand = "" if wanted.kind in _STRAIGHT else f" {wanted.hand}"
    name = f"{_KIND_WORDS[wanted.kind]}{hand}, {wanted.level_g:g} g for {wanted.hold_s:g} s"
    return _keep(user, name, "", {"manoeuvre": wanted.model_dump()}, prepare(log))


def keep_with_grip(user: User, lap_id: int, wanted: GripIn) -> Lap:
    """Keep a lap of the workshop as it would be with other tyres.

    Raises
    ------
    NotFound
    """
    lap = lap_of(user.workshop, lap_id)
    log = prepare(with_grip(log_of(lap), wanted.factor))
    name = f"{lap.name}, grip x {wanted.factor:g}"[-120:]
    return _keep(user, name, lap.file_name, {"of": lap.pk, "grip": wanted.factor}, log)


def _keep(user: User, name: str, file_name: str, mapping: dict[str, object], log: Log) -> Lap:
    return Lap.objects.create(
        workshop=user.workshop,
        name=name,
        file_name=file_name,
        mapping=mapping,
        samples=_packed(log),
        duration_s=log.duration,
        made_by=user,
    )


def _packed(log: Log) -> bytes:
    buffer = io.BytesIO()
    np.savez_compressed(
        buffer,
        time=log.time,
        speed=log.speed,
        forward=log.forward,
        leftward=log.leftward,
        engine_speed=log.engine_speed,
    )
    return buffer.getvalue()


def log_of(lap: Lap) -> Log:
    """The samples of a stored lap.

    Raises
    ------
    InvalidQuantity
        If the stored samples cannot be read.
    """
    try:
        with np.load(io.BytesIO(bytes(lap.samples)), allow_pickle=False) as stored:
            return Log(
                stored["time"],
                stored["speed"],
                stored["forward"],
                stored["leftward"],
                stored["engine_speed"],
            )
    except (ValueError, KeyError, OSError) as error:
        raise InvalidQuantity("stored lap", lap.name, "readable; import it again") from error
