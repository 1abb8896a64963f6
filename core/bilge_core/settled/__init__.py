"""Oil at rest under a steady load: level, cover, rose, and the lap settled."""

from bilge_core.settled.lap import SettledLap, settle_lap
from bilge_core.settled.rose import CoverRose, HeldEdges, cover_rose, held_edges
from bilge_core.settled.surface import LevelCurve, Surface, level_curve, settle
from bilge_core.settled.tilt import TiltTable, tilt_table

VERSION = "settled-2"
"""Named in every forecast; to be changed with anything that changes a figure."""

__all__ = [
    "VERSION",
    "CoverRose",
    "HeldEdges",
    "LevelCurve",
    "SettledLap",
    "Surface",
    "TiltTable",
    "cover_rose",
    "held_edges",
    "level_curve",
    "settle",
    "settle_lap",
    "tilt_table",
]
