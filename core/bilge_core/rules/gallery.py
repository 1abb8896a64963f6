"""When oil pressure has dipped."""

from __future__ import annotations

import math

from bilge_core.rules.rule import Rule

PRESSURE_DIP = Rule(
    "pressure_dip",
    "Gallery pressure stays above 0.6 of what this engine steadily has at that speed",
    "ours: a fixed line in bar flags seconds a lap of a healthy engine, its own share does not",
    low=0.6,
    unit="1",
)
SHORTEST_PRESSURE_DIP = Rule(
    "shortest_pressure_dip",
    "A pressure dip is told when it lasts so long",
    "ours: a crank turns ten times in it at 6000 rpm; films outlive less",
    low=0.1,
    unit="s",
)
PRESSURE_LINE = Rule(
    "pressure_line",
    "Gallery pressure is at least 10 psi for every 1000 rpm",
    "from memory, a rule of thumb: shown beside, judged by nothing",
    low=10.0 * 6894.757 / (1000.0 * math.pi / 30.0),
    unit="Pa s/rad",
)
ENGINE_RUNS = Rule(
    "engine_runs",
    "Pressure is judged from 300 rpm of the crank up",
    "ours: under it an engine is cranked or stands",
    low=300.0 * math.pi / 30.0,
    unit="rad/s",
)
RULES = (ENGINE_RUNS, PRESSURE_DIP, SHORTEST_PRESSURE_DIP, PRESSURE_LINE)
