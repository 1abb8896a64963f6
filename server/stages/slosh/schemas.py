"""What Slosh draws."""

from __future__ import annotations

from bilge_core.tell.drawing import DrawingOut
from bilge_core.tell.settled import HeldOut, RoseOut, SettledLapOut, TiltOut
from bilge_core.tell.verdict import OverLap, VerdictOut
from ninja import Schema


class LapForecastOut(SettledLapOut):
    """A lap's forecast in settled oil, with which lap it is."""

    lap_id: int
    lap_name: str


class SloshOut(Schema):
    """All that the Slosh screen draws for one state of a build."""

    state: int
    model: str
    model_note: str
    circuit_note: str
    verdict: VerdictOut
    """Over the lap shown."""
    over: list[OverLap]
    """Over all laps that the build is judged by, the worst first; none of a run's scene."""
    drawing: DrawingOut
    rose: RoseOut
    held: HeldOut
    tilt: TiltOut
    lap: LapForecastOut | None
