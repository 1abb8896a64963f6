"""What was measured, checked against itself and against the trade's rules."""

from bilge_core.measure.checks import Check, check_pan, mended_by, mouth_side
from bilge_core.measure.clearance import GroundClearance, ground_clearance
from bilge_core.measure.deepen import Deepened, deepen
from bilge_core.measure.dips import DipComparison, Explanation, compare_dips, explain_dips

__all__ = [
    "Check",
    "Deepened",
    "DipComparison",
    "Explanation",
    "GroundClearance",
    "check_pan",
    "compare_dips",
    "deepen",
    "explain_dips",
    "ground_clearance",
    "mended_by",
    "mouth_side",
]
