"""Keeping logged laps, naming and editing them."""

from __future__ import annotations

import hashlib
import io
from pathlib import Path

import numpy as np
from accounts.models import User
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.loads.corners import Corner, find_corners, named_corners
from bilge_core.loads.laps import SHORTEST_LAP, find_laps
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.manoeuvres import Kind, Manoeuvre, manoeuvre_log, with_grip
from bilge_core.loads.reading import Reading, check_reading
from bilge_core.loads.recording import read_log, read_recording, recording_from
from bilge_core.loads.sniff import open_log
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.physics.turns import speed_of_rpm
from config.errors import Conflict
from django.db import transaction

from loads import uploads
from loads.models import Lap
from loads.schemas import (
    CornersIn,
    GripIn,
    KeepLapsIn,
    KeepManoeuvresIn,
    LapNameIn,
    ManoeuvreIn,
    ManoeuvresIn,
    ManoeuvreTraceOut,
)
from loads.selectors import lap_of

_OPTIONAL = ("upward", "place", "oil_pressure", "oil_temperature")


def keep_laps(user: User, wanted: KeepLapsIn) -> list[Lap]:
    """Read a file as said and keep the wanted laps of it, all or none.

    Raises
    ------
    NotFound
    InvalidInput
        Naming line and column; nothing is kept then.
    """
    upload = uploads.upload_of(user.workshop, wanted.file_id)
    file = uploads.opened(upload)
    check_reading(wanted.reading)
    found = recording_from(uploads.whole_columns(upload, file, wanted.reading), wanted.reading)
    if found.bad_rows and not wanted.leave_out_bad_rows:
        raise InvalidInput(list(found.faults))
    start = float(found.log.time[0])
    logs = []
    for index, lap in enumerate(wanted.laps):
        log = found.log.between(start + lap.start_s, start + lap.end_s)
        if len(log.time) < 2 or log.duration < SHORTEST_LAP:
            raise InvalidInput(
                [
                    Problem(
                        f"laps.{index}",
                        f"lasts {log.duration if len(log.time) else 0.0:.1f} s in the recording; "
                        f"a lap needs at least {SHORTEST_LAP:.0f} s",
                    )
                ]
            )
        logs.append(prepare(log))
    told = wanted.reading.model_dump(mode="json")
    with transaction.atomic():
        uploads.remember_reading(user.workshop, file, wanted.reading)
        return [
            _keep(user, lap.name or f"Lap {index}", upload.name, told, log)
            for index, (lap, log) in enumerate(zip(wanted.laps, logs, strict=True), start=1)
        ]


def store_lap(
    user: User, name: str, source: bytes | Path, file_name: str, reading: Reading | None = None
) -> Lap:
    """Keep a whole file as one lap, taking its headings at their word unless told.

    Raises
    ------
    InvalidInput
    """
    file = open_log(source)
    used = reading or file.proposal
    log = prepare(read_log(file, used))
    return _keep(user, name, file_name[-200:], used.model_dump(mode="json"), log)


def store_laps(user: User, name: str, source: bytes | Path, file_name: str) -> list[Lap]:
    """Keep every whole lap of a recording, taking its headings at their word.

    Raises
    ------
    InvalidInput
    """
    file = open_log(source)
    found = read_recording(file, file.proposal)
    told = file.proposal.model_dump(mode="json")
    start = float(found.log.time[0])
    spans = find_laps(prepare(found.log), found.lap_starts)
    return [
        _keep(
            user, f"{name}, lap {span.number}", file_name, told,
            prepare(found.log.between(start + span.start, start + span.end)),
        )
        for span in spans
        if span.whole
    ]  # fmt: skip


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


_UNITS = {"level": "level_g", "ramp": "ramp_s", "hold": "hold_s"}
_DRAWN_RATE = 10.0
"""Samples a second of a load that is drawn while it is typed."""


def _manoeuvre_log(wanted: ManoeuvresIn) -> Log:
    try:
        return manoeuvre_log(
            *(
                Manoeuvre(
                    part.kind,
                    part.hand,
                    part.level_g,
                    part.ramp_s,
                    part.hold_s,
                    speed_of_rpm(part.engine_speed_rpm),
                )
                for part in wanted.parts
            )
        )
    except InvalidQuantity as error:
        field = _UNITS.get(error.name, error.name)
        raise InvalidInput([Problem(field, f"must be {error.requirement}")]) from None


def _manoeuvre_name(wanted: ManoeuvresIn) -> str:
    def words(part: ManoeuvreIn) -> str:
        hand = "" if part.kind in _STRAIGHT else f" {part.hand}"
        return f"{_KIND_WORDS[part.kind]}{hand}, {part.level_g:g} g for {part.hold_s:g} s"

    return "; ".join(words(part) for part in wanted.parts)[:120]


def trace_manoeuvres(wanted: ManoeuvresIn) -> ManoeuvreTraceOut:
    """A load as it would be kept, to be drawn.

    Raises
    ------
    InvalidInput
        If its figures make no sense.
    """
    log = _manoeuvre_log(wanted)
    every = max(1, round(1.0 / (_DRAWN_RATE * log.step)))
    return ManoeuvreTraceOut(
        name=_manoeuvre_name(wanted),
        time_s=log.time[::every].round(2).tolist(),
        side_g=(log.leftward[::every] / STANDARD_GRAVITY).round(3).tolist(),
        fore_g=(log.forward[::every] / STANDARD_GRAVITY).round(3).tolist(),
    )


def keep_manoeuvres(user: User, wanted: KeepManoeuvresIn) -> Lap:
    """Make a load of manoeuvres and keep it among the workshop's laps.

    Raises
    ------
    InvalidInput
        If its figures make no sense.
    """
    log = prepare(_manoeuvre_log(wanted))
    told: dict[str, object] = {"manoeuvres": [part.model_dump() for part in wanted.parts]}
    return _keep(user, wanted.name or _manoeuvre_name(wanted), "", told, log)


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


def rename_lap(user: User, lap_id: int, wanted: LapNameIn) -> Lap:
    """Call a lap something else.

    Raises
    ------
    NotFound
    Conflict
        If somebody else called it something else since.
    """
    lap = lap_of(user.workshop, lap_id)
    named = Lap.objects.filter(pk=lap.pk, name=wanted.base_name).update(name=wanted.name)
    lap.refresh_from_db(fields=["name"])
    if not named and lap.name != wanted.name:
        raise Conflict(f"This lap is called {lap.name} by now; look, then name it again.")
    return lap


@transaction.atomic
def delete_lap(user: User, lap_id: int, even_if_used: bool) -> None:
    """Remove a lap; builds that show it show another of theirs then, or none.

    Raises
    ------
    NotFound
    Conflict
        If builds are judged by it and that was not said to be meant.
    """
    lap = lap_of(user.workshop, lap_id)
    used = [name for (name,) in lap.judges.values_list("build__name").order_by("build__name")]
    if used and not even_if_used:
        are = "are" if len(used) > 1 else "is"
        raise Conflict(f"{', '.join(used)} {are} judged by this lap.")
    for build in lap.builds.select_for_update():
        another = build.judged_by.exclude(lap=lap).first()
        build.lap_id = another.lap_id if another else None
        build.save(update_fields=["lap"])
    lap.delete()


def edit_corners(user: User, lap_id: int, wanted: CornersIn) -> Lap:
    """Set where the corners of a lap are and what they are called; None finds them again.

    Raises
    ------
    NotFound
    InvalidInput
        If a corner lies outside the lap or over another.
    """
    lap = lap_of(user.workshop, lap_id)
    if wanted.corners is None:
        lap.corners = None
    else:
        rows = [[corner.name or None, corner.start_s, corner.end_s] for corner in wanted.corners]
        try:
            named_corners(log_of(lap), [(name, a, b) for name, a, b in rows])  # type: ignore[misc]
        except InvalidQuantity as error:
            raise InvalidInput([Problem("corners", str(error))]) from None
        lap.corners = rows
    lap.save(update_fields=["corners"])
    return lap


def corners_of(lap: Lap, log: Log) -> tuple[Corner, ...]:
    """The corners of a lap: as edited, else as found."""
    if lap.corners is None:
        return find_corners(log)
    return named_corners(log, [(name, start, end) for name, start, end in lap.corners])


def _keep(user: User, name: str, file_name: str, mapping: dict[str, object], log: Log) -> Lap:
    samples = _packed(log)
    return Lap.objects.create(
        workshop=user.workshop,
        name=name,
        file_name=file_name,
        mapping=mapping,
        samples=samples,
        digest=hashlib.sha256(samples).hexdigest(),
        duration_s=log.duration,
        made_by=user,
    )


def _packed(log: Log) -> bytes:
    buffer = io.BytesIO()
    extras = {name: getattr(log, name) for name in _OPTIONAL if getattr(log, name) is not None}
    np.savez_compressed(
        buffer,
        time=log.time,
        speed=log.speed,
        forward=log.forward,
        leftward=log.leftward,
        engine_speed=log.engine_speed,
        **extras,
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
            extras = {name: stored[name] for name in _OPTIONAL if name in stored.files}
            return Log(
                stored["time"],
                stored["speed"],
                stored["forward"],
                stored["leftward"],
                stored["engine_speed"],
                **extras,
            )
    except (ValueError, KeyError, OSError) as error:
        raise InvalidQuantity("stored lap", lap.name, "readable; import it again") from error
