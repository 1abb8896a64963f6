"""Oil at rest under a steady load: level, cover, rose, and the lap settled."""

from bilge_core.statics.lap import SettledLap, settle_lap
from bilge_core.statics.rose import CoverRose, cover_rose
from bilge_core.statics.surface import LevelCurve, Surface, level_curve, settle

__all__ = [
    "CoverRose",
    "LevelCurve",
    "SettledLap",
    "Surface",
    "cover_rose",
    "level_curve",
    "settle",
    "settle_lap",
]
