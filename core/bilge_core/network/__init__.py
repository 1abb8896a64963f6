"""The circuit as it flows: from the mouth through pump, gallery, heads and crankcase to the pan."""

from bilge_core.network.assembly import Network, network_of
from bilge_core.network.guesses import GUESSES, Guess
from bilge_core.network.held import Held, held_running
from bilge_core.network.met import Met, between_looks, met_over
from bilge_core.network.oil import hot_ratio, learned_up_top
from bilge_core.network.running import Steady, Trace, run, settled_in, steady

VERSION = "network-2"
"""Of what a circuit lets flow: to be changed with anything that moves a figure."""

__all__ = [
    "GUESSES",
    "VERSION",
    "Guess",
    "Held",
    "Met",
    "Network",
    "Steady",
    "Trace",
    "between_looks",
    "held_running",
    "hot_ratio",
    "learned_up_top",
    "met_over",
    "network_of",
    "run",
    "settled_in",
    "steady",
]
