"""The mouth over the floor."""

from __future__ import annotations

from bilge_core.rules.rule import COMMON, Check, Rule

_FITTED_TO = 0.1e-3  # [m] that a gap is set to by hand

GAP = Rule(
    "mouth_gap",
    "6.4 to 9.5 mm from mouth to floor (1/4 to 3/8 in)",
    COMMON,
    low=6.4e-3,
    high=9.5e-3,
    unit="m",
)
RULES = (GAP,)


def gap_words() -> str:
    """The rule in a few words, for sentences.

    Examples
    --------
    >>> gap_words()
    'common practice is 6.4 to 9.5 mm'
    """
    return f"common practice is {GAP.least * 1e3:.1f} to {GAP.most * 1e3:.1f} mm"


def check_gap(gap: float) -> Check:
    """The mouth's gap to the floor [m]; a tenth of a millimetre is what hands can set.

    Examples
    --------
    >>> check_gap(8e-3).state, check_gap(12e-3).state
    ('good', 'caution')
    """
    beyond = abs(gap - min(max(gap, GAP.least), GAP.most))
    return Check(
        "good" if beyond <= _FITTED_TO else "caution",
        f"Mouth {gap * 1e3:.1f} mm above the floor; {gap_words()}",
        "pickup.gap_mm",
        GAP,
    )
