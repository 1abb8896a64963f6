"""From which share of gas the pickup draws air, and from which it runs dry."""

from __future__ import annotations

from bilge_core.rules.rule import Rule

DRAWS_AIR = Rule(
    "draws_air",
    "At most a twentieth of what the pump draws is gas",
    "ours; no measurement fixes it",
    high=0.05,
    unit="1",
)
RUNS_DRY = Rule(
    "runs_dry",
    "At most half of what the pump draws is gas",
    "ours: where the surface reaches the mouth's centre",
    high=0.5,
    unit="1",
)
JOINED = Rule(
    "dips_apart",
    "Two dips are told apart when oil comes between them for so long",
    "ours: nobody would tell shorter ones apart",
    low=0.05,
    unit="s",
)
SHORTEST_DIP = Rule(
    "shortest_dip",
    "In moving oil a dip is told when it lasts so long",
    "ours: shorter ones come and go with the start of a run",
    low=0.05,
    unit="s",
)
RULES = (DRAWS_AIR, RUNS_DRY, JOINED, SHORTEST_DIP)
