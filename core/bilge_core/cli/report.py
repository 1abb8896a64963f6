"""What ``bilge check`` says, in lines."""

from __future__ import annotations

from typing import TYPE_CHECKING

from bilge_core.cli.drained import drained_line
from bilge_core.document.build import Build
from bilge_core.forecast import SettledForecast
from bilge_core.forecast.settled import circuit_note, model_note
from bilge_core.forecast.verdict import dip_words, pressure_dip_words
from bilge_core.loads.facts import LogFacts
from bilge_core.network import held_running
from bilge_core.network.held import held_words
from bilge_core.tell.verdict import DrainsVerdict

if TYPE_CHECKING:  # compiled loops that settled oil needs none of
    from bilge_core.cli.moving import Moving


def _least_words(cover: float, moves: bool) -> str:
    """Moving oil that has left the mouth may be anywhere: how far is only said of settled oil."""
    if moves and cover < 0.0:
        return "bare on the lap"
    return f"least on the lap {cover * 1e3:.0f} mm"


def report(
    build: Build,
    settled: SettledForecast,
    moving: Moving | None,
    facts: LogFacts,
    said: tuple[str, ...],
    drains: DrainsVerdict | None,
) -> str:
    """Verdict, how the log was read, oil and dips, in lines."""
    result = moving.forecast if moving else settled
    backs_up = drains is not None and drains.state == "bad"
    headline = "Not safe" if backs_up else result.verdict.headline
    lines = [f"{build.name}: {headline}. {result.verdict.sentence}"]
    lines += [*([f"  {drained_line(drains)}"] if drains else []), ""]
    lines += [f"  {sentence}" for sentence in (*said, *facts.sentences)]
    lines += [f"  CHECK: {doubt}" for doubt in facts.doubts]
    pan = result.pan
    held = held_running(build)
    lines += [
        "",
        f"  Oil in the pan, hot: {pan.oil_volume * 1e3:.1f} L of "
        f"{pan.capacity_to_rail * 1e3:.1f} L to the rail.",
        f"  The running engine holds {held_words(held)}.",
        f"  Mouth covered by {settled.standing.cover * 1e3:.0f} mm standing; "
        f"{_least_words(result.least_cover, moves=moving is not None)}, "
        f"at {result.least_cover_at:.1f} s.",
        f"  Dry for {result.dry_time.dry:.1f} s, "
        f"draws air for {result.dry_time.draws_air:.1f} s of {result.log.duration:.1f} s.",
    ]
    if moving:
        lines += moving.lines(settled)
    if moving and moving.forecast.pressure.dips:
        lines += ["", "  Pressure dips, longest first:"]
        lines += [
            f"  {rank:3d}. at {dip.start:5.1f} s: {pressure_dip_words(dip)}"
            for rank, dip in enumerate(moving.forecast.pressure.dips, start=1)
        ]
    if result.dry_time.dips:
        lines += ["", "  Dips at the mouth, worst first:"]
        lines += [
            f"  {rank:3d}. at {dip.start:5.1f} s: {dip_words(dip)}"
            for rank, dip in enumerate(result.dry_time.dips, start=1)
        ]
    lines += [
        "",
        f"  {moving.note if moving else model_note(build)}",
        *([f"  {circuit_note(build)}"] if circuit_note(build) else []),
        "  Estimates to plan by, not a guarantee: keep a pressure gauge.",
    ]
    return "\n".join(lines)
