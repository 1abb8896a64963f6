"""What was measured, checked against itself and against the trade's rules."""

from bilge_core.measure.around import Clearance, clearances, crank_gap
from bilge_core.measure.check import Check
from bilge_core.measure.checks import check_pan, mended_by, mouth_side
from bilge_core.measure.clearance import GroundClearance, ground_clearance
from bilge_core.measure.deepen import Deepened, deepen
from bilge_core.measure.dips import DipComparison, Explanation, compare_dips, explain_dips
from bilge_core.measure.flange import with_flange
from bilge_core.measure.reshape import depth_for_capacity, sump_preset

__all__ = [
    "Check",
    "Clearance",
    "Deepened",
    "DipComparison",
    "Explanation",
    "GroundClearance",
    "check_pan",
    "clearances",
    "compare_dips",
    "crank_gap",
    "deepen",
    "depth_for_capacity",
    "explain_dips",
    "ground_clearance",
    "mended_by",
    "mouth_side",
    "sump_preset",
    "with_flange",
]
