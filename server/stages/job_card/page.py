"""The card on paper: boxes to tick, torque, the bolts in their order, a code back to each step."""

from __future__ import annotations

from bilge_core.tell.job import FlangeOut, StepOut
from config.pages import BOLD, HAIR, INK, SMALL, TEXT, TITLE, page_of, words
from reportlab.graphics.barcode.qr import QrCodeWidget
from reportlab.graphics.shapes import Circle, Drawing, Polygon, Rect, String
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Paragraph, Spacer, Table

from stages.job_card.schemas import JobStageOut

_WIDE = 150 * mm
_CAUTION = (
    "Times are guesses until the workshop typed its own; the maker's torque decides. Two "
    "independent supports under the car. Structural welds and pressure parts: licensed people. "
    "Local codes, class rules and the organiser decide, not this card."
)


def _box(step: StepOut) -> Drawing:
    """A box to tick, ticked where it is done."""
    made = Drawing(5 * mm, 5 * mm)
    made.add(Rect(0.6 * mm, 0.6 * mm, 3.8 * mm, 3.8 * mm, fillColor=None, strokeColor=INK))
    if step.state == "done":
        made.add(String(1.2 * mm, 1.3 * mm, "x", fontName=BOLD, fontSize=10))
    return made


def _code(address: str, size: float = 14 * mm) -> Drawing:
    """A code that a phone reads, back to the step."""
    widget = QrCodeWidget(address, barLevel="M", barWidth=size, barHeight=size, barBorder=2)
    made = Drawing(size, size)
    made.add(widget)
    return made


def _time(step: StepOut) -> str:
    hands = f"{step.hours * 60:.0f} min"
    if step.wait_days:
        return f"{hands}, then {step.wait_days:.0f} days"
    return f"{hands}, then {step.wait_h * 60:.0f} min" if step.wait_h else hands


def _about(step: StepOut) -> list[Paragraph]:
    said = [words(step.words, TEXT)]
    lines = ["NOT TO BE PASSED WITHOUT IT." if step.is_gate else "", step.why]
    if step.torque:
        hand = ", LEFT-HAND THREAD" if step.torque.left_handed else ""
        lines.append(f"{step.torque.words}{hand} ({step.torque.source})")
    if step.tools:
        lines.append(f"Tools: {step.tools}")
    if step.bought:
        parts = ", ".join(f"{each.count:g} {each.words}" for each in step.bought)
        lines.append(f"Parts: {parts}")
    lines += [f"! {caution}" for caution in step.cautions]
    if step.reason:
        lines.append(f"Passed without: {step.reason} ({step.by})")
    lines += [f"Note, {note.by}: {note.words}" for note in step.notes if note.words]
    return [*said, *(words(line, SMALL) for line in lines if line)]


def _row(at: int, step: StepOut, address: str) -> list[object]:
    who = f"{step.by} {step.at:%d %b, %H:%M}" if step.at and step.by else "by ........ at ......"
    return [_box(step), words(str(at), TEXT), _about(step),
            [words(_time(step), SMALL), words(who, SMALL)],
            _code(f"{address}?step={step.id}")]  # fmt: skip


def _bolts(flange: FlangeOut) -> Drawing:
    """The flange from below with each bolt's number in the order."""
    xs = [x for x, _ in flange.outline_mm]
    ys = [y for _, y in flange.outline_mm]
    wide, high = max(xs) - min(xs), max(ys) - min(ys)
    scale = min(_WIDE / max(wide, 1.0), 70 * mm / max(high, 1.0))
    made = Drawing(wide * scale + 10 * mm, high * scale + 10 * mm)

    def at(x: float, y: float) -> tuple[float, float]:
        return (max(xs) - x) * scale + 5 * mm, (y - min(ys)) * scale + 5 * mm

    ring = [part for x, y in flange.outline_mm for part in at(x, y)]
    made.add(Polygon(ring, fillColor=None, strokeColor=INK, strokeWidth=0.8))
    for number, bolt in enumerate(flange.pattern, start=1):
        x, y = at(*flange.bolts_mm[bolt])
        made.add(Circle(x, y, 2.8 * mm, fillColor=None, strokeColor=INK))
        size = 8 if number < 100 else 6
        made.add(String(x, y - size / 2.8, str(number), fontName=BOLD, fontSize=size,
                        textAnchor="middle"))  # fmt: skip
    return made


def _plan(told: JobStageOut) -> str:
    assert told.card is not None
    plan = told.card.plan
    late = "; ".join(
        f"{row.words} is there on {row.there:%d %b %Y} and costs {row.slips_days} days"
        for row in plan.late
    )
    oil = f" Oil in from {plan.oil_in:%a %d %b %H:%M}." if plan.oil_in else ""
    return (
        f"{len(told.card.steps)} steps, {plan.hands_h:.1f} h of hands, begins "
        f"{plan.begins:%a %d %b}, done {plan.ends:%a %d %b %Y}.{oil}"
        + (f" {late[0].upper()}{late[1:]}." if late else "")
    )


def as_page(name: str, told: JobStageOut, address: str) -> bytes:
    """The card as a PDF."""
    title = f"{name}: job card" + (f" {told.number}" if told.number else "")
    if told.card is None or not told.card.steps:
        return page_of([words(title, TITLE), words("Nothing to do.", TEXT)], title)
    parts: list[Flowable] = [words(title, TITLE), Spacer(1, 1.5 * mm), words(_plan(told), TEXT)]
    rows: list[list[object]] = []
    phase = ""

    def flush() -> None:
        if not rows:
            return
        table = Table(rows, colWidths=[7 * mm, 8 * mm, 118 * mm, 32 * mm, 18 * mm])
        table.setStyle([
            ("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 1),
            ("LINEBELOW", (0, 0), (-1, -1), 0.3, HAIR), ("RIGHTPADDING", (0, 0), (-1, -1), 2),
        ])  # fmt: skip
        parts.append(table)
        rows.clear()

    for number, step in enumerate(told.card.steps, start=1):
        if step.phase != phase:
            flush()
            phase = step.phase
            parts += [Spacer(1, 3 * mm), words(phase, TITLE)]
        rows.append(_row(number, step, address))
        if step.has_bolts and told.card.flange:
            flush()
            parts.append(KeepTogether([words("From below, nose left", SMALL),
                                       _bolts(told.card.flange)]))  # fmt: skip
    flush()
    return page_of([*parts, Spacer(1, 3 * mm), words(_CAUTION, SMALL)], title)
