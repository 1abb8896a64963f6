"""Saying what a logger's file was understood to hold, while and after it is read."""

from __future__ import annotations

from collections.abc import Iterator

from accounts.models import User
from bilge_core.errors import InvalidInput, Problem
from bilge_core.loads.channels import CHANNELS, POSITIVE_WORDS
from bilge_core.loads.facts import log_facts
from bilge_core.loads.guesses import Guess, complete
from bilge_core.loads.importing import Columns
from bilge_core.loads.laps import find_laps
from bilge_core.loads.line import thinned_line
from bilge_core.loads.log import prepare
from bilge_core.loads.reading import Reading, check_reading
from bilge_core.loads.recording import recording_from
from bilge_core.loads.sniff import LogFile, as_file_says

from loads import uploads
from loads.schemas import ChannelOut, FieldFault, GuessOut, LapSpanOut, ReadingStep, UnderstoodOut

_SEPARATOR_WORDS = {",": "commas", ";": "semicolons", "\t": "tabs", "|": "bars", " ": "spaces"}


def fault_rows(problems: tuple[Problem, ...] | list[Problem]) -> list[FieldFault]:
    """Problems as they cross the boundary."""
    return [FieldFault(field=p.field, message=p.message) for p in problems]


def _channels() -> list[ChannelOut]:
    return [
        ChannelOut(
            name=name,
            label=channel.label,
            units=channel.units,
            positive_choices=list(POSITIVE_WORDS.get(name, ())),
            use=channel.use,
        )
        for name, channel in CHANNELS.items()
    ]


def _file_words(file: LogFile) -> str:
    words = [f"Columns parted by {_SEPARATOR_WORDS[file.separator]}"]
    if file.decimal_comma:
        words.append("decimal commas")
    if file.header_line:
        words.append(f"headings on line {file.header_line}")
    else:
        words.append("no headings: columns are numbered")
    if file.units_line:
        words.append(f"units on line {file.units_line}")
    return ", ".join(words) + "."


def _blank(file: LogFile, reading: Reading, remembered: bool) -> UnderstoodOut:
    return UnderstoodOut(
        headings=list(file.headings),
        channels=_channels(),
        reading=reading,
        remembered=remembered,
        guesses=[],
        file_words=_file_words(file),
        faults=[],
        bad_rows=0,
        bad_row_faults=[],
        sentences=[],
        remarks=[],
        doubts=[],
        from_gps=False,
        line_m=[],
        laps=[],
        duration_s=0.0,
    )


def _with_facts(blank: UnderstoodOut, columns: Columns, reading: Reading) -> UnderstoodOut:
    found = recording_from(columns, reading)
    log = prepare(found.log)
    laps = find_laps(log, found.lap_starts)
    facts = log_facts(log, "This lap" if len(laps) == 1 else "This recording")
    return blank.model_copy(
        update={
            "bad_rows": found.bad_rows,
            "bad_row_faults": fault_rows(found.faults),
            "sentences": list(facts.sentences),
            "remarks": list(found.remarks),
            "doubts": list(facts.doubts),
            "from_gps": log.place is not None,
            "line_m": thinned_line(log),
            "laps": [
                LapSpanOut(
                    number=lap.number,
                    start_s=round(lap.start, 3),
                    end_s=round(lap.end, 3),
                    whole=lap.whole,
                )
                for lap in laps
            ],
            "duration_s": round(log.duration, 3),
        }
    )


def _guess_out(guess: Guess) -> GuessOut:
    return GuessOut(field=guess.field, taken=guess.taken, words=guess.words)


def understand_log(user: User, file_id: int, reading: Reading | None) -> Iterator[ReadingStep]:
    """Read a file and say what it holds, step by step; what is still to be said is listed.

    What a reading does not say of a column is taken from the file's own words, and what those do
    not say is worked out from its numbers, and named as a guess.

    Raises
    ------
    NotFound, InvalidInput
        Before the first step, if there is no such file or it is no table.
    """
    upload = uploads.upload_of(user.workshop, file_id)
    file = uploads.opened(upload)
    known = None if reading is not None else uploads.remembered_reading(user.workshop, file)
    used = as_file_says(file, reading or known or file.proposal)
    blank = _blank(file, used, remembered=known is not None)

    def steps() -> Iterator[ReadingStep]:
        told, taken = blank, used
        try:
            check_reading(taken, but_unsaid=True)  # that is worked out below
            reading_steps = uploads.columns_in_steps(upload, file, taken)
            while True:
                try:
                    yield ReadingStep(share=round(next(reading_steps), 3))
                except StopIteration as end:
                    columns: Columns = end.value
                    break
            taken, guesses = complete(columns, taken)
            told = blank.model_copy(
                update={"reading": taken, "guesses": [_guess_out(each) for each in guesses]}
            )
            yield ReadingStep(understood=_with_facts(told, columns, taken))
        except InvalidInput as error:
            yield ReadingStep(
                understood=told.model_copy(update={"faults": fault_rows(error.problems)})
            )

    return steps()
