"""Drains that fall by gravity, the feeds of what they drain, and the crankcase's breathing."""

from __future__ import annotations

from bilge_core.rules.rule import COMMON, Check, Rule

SEAL = Rule(
    "drain_seal", "Oil stays below the seals of what a drain drains", COMMON, low=0.0, unit="m"
)
SPARE = Rule(
    "drain_spare", "A drain has 10 mm of head to spare",
    "ours: a surface that rocks is about so far from where it would settle", low=0.010, unit="m",
)  # fmt: skip
BACKS_UP = Rule(
    "back_up", "Oil over the seals for 0.05 s is a back-up", "ours: a splash is none",
    low=0.05, unit="s",
)  # fmt: skip
FALLS = Rule(
    "drain_falls", "A drain falls by 10° or more all the way, standing",
    "common practice, no published source, that it falls; ours, that 10° is a fall: a car stands "
    "and leans by some of it",
    low=10.0, unit="deg",
)  # fmt: skip
REDUCER = Rule(
    "drain_reducer", "Nothing in a drain is narrower than what comes before it", COMMON,
    low=0.9, unit="1", fix="widen_drain",
)  # fmt: skip
FLANGES = Rule(
    "drain_flanges",
    "A gasket's hole is as wide as the outlet under it",
    COMMON,
    low=0.97,
    unit="1",
    fix="open_gasket",
)
GRAVITY_BORE = Rule(
    "gravity_bore", "A turbo drains by gravity through size 10, 14 mm, or more", COMMON,
    low=13.5e-3, unit="m", fix="widen_drain",
)  # fmt: skip
FEED_FITS = Rule(
    "feed_fits_drain", "A drain, standing, carries more than the feed brings at full pressure",
    COMMON, high=1.0, unit="1", fix="restrict_feed",
)  # fmt: skip
OWN_STAGE = Rule(
    "own_stage", "What a stage pulls has that stage for itself, or falls to the junction", COMMON,
    high=1.0, unit="inlets", fix="own_stage",
)  # fmt: skip
STAGE_CARRIES = Rule(
    "stage_carries", "A stage sweeps a ninth more than what comes to it, foam and all",
    "ours: gears slip; that gas counts is why dry sumps pump two to three times the oil "
    "(common practice)", high=0.9, unit="1", fix="larger_stage",
)  # fmt: skip
STAGE_SUCTION = Rule(
    "stage_suction", "A stage's line takes at most 20 kPa", "from memory: 20 to 30 kPa, beyond it "
    "a stage no longer fills", high=20e3, unit="Pa", fix="widen_drain",
)  # fmt: skip
FEED_FILTERED = Rule("feed_filtered", "A turbo is fed from behind the filter", COMMON)
FEED_RESTRICTED = Rule(
    "feed_restricted",
    "A turbo's feed has a restrictor, about 2 mm for plain bearings",
    COMMON,
    fix="restrict_feed",
)
CRANKCASE = Rule(
    "crankcase", "The crankcase has at most 10 mbar over the air",
    "ours: it is 128 mm of oil against every drain that oil shuts", high=1e3, unit="Pa",
    fix="widen_breather",
)  # fmt: skip
VENT_UNDER = Rule(
    "vent_under", "A breather's port is above the oil", "ours: what is under it for 0.05 s, carries"
    " oil out", high=0.05, unit="s",
)  # fmt: skip
RULES = (
    SEAL, SPARE, BACKS_UP, FALLS, REDUCER, FLANGES, GRAVITY_BORE, FEED_FITS, OWN_STAGE,
    STAGE_CARRIES, STAGE_SUCTION, FEED_FILTERED, FEED_RESTRICTED, CRANKCASE, VENT_UNDER,
)  # fmt: skip


def check_margin(name: str, spare: float, flooded: float, field: str) -> Check:
    """Head to spare [m] at a lap's worst, and for how long oil stands over the seals [s].

    Examples
    --------
    >>> check_margin("turbo drain", -0.027, 1.2, "circuit.runs.3").state
    'bad'
    """
    mm = abs(spare) * 1e3
    if not SEAL.holds(spare):
        words = (
            f"{name} is {mm:.0f} mm of head short at the lap's worst: oil stands over the seals "
            f"for {flooded:.1f} s a lap"
        )
        return Check("bad", words, field, SEAL)
    if not SPARE.holds(spare):
        words = f"{name} has only {mm:.0f} mm of head to spare at the lap's worst"
        return Check("caution", words, field, SPARE)
    return Check("good", f"{name} has {mm:.0f} mm of head to spare all lap", field, SEAL)


def check_fall(name: str, least_deg: float, field: str) -> Check | None:
    """The flattest stretch of a drain, standing [degrees under level]; negative: it rises."""
    if FALLS.holds(least_deg):
        return None
    if least_deg < 0.0:
        words = (
            f"{name} rises by {-least_deg:.0f}° on its way, standing: a trap, in which oil stays. "
            "A gravity drain falls all the way"
        )
        return Check("bad", words, field, FALLS)
    words = f"{name} falls by only {least_deg:.0f}° somewhere, standing: 10° or more keeps it going"
    return Check("caution", words, field, FALLS)


def check_reducer(name: str, narrow: str, share: float, field: str) -> Check | None:
    """A piece so many times as wide as the widest before it."""
    if REDUCER.holds(share):
        return None
    words = f"{name} narrows at {narrow} to {share * 100:.0f} % of what comes before: no reducers"
    return Check("caution", words, field, REDUCER)


def check_flanges(name: str, share: float, field: str) -> Check | None:
    """A gasket's hole so many times as wide as the outlet under it."""
    if FLANGES.holds(share):
        return None
    words = (
        f"{name}: its gasket's hole is {share * 100:.0f} % as wide as the outlet: cut it out, "
        "and match the flange, before it is closed"
    )
    return Check("caution", words, field, FLANGES)


def check_bore(name: str, bore: float, field: str) -> Check | None:
    """The narrowest of a turbo's drain by gravity [m]."""
    if GRAVITY_BORE.holds(bore):
        return None
    words = f"{name} is {bore * 1e3:.1f} mm at its narrowest: size 10, 14 mm, or more by gravity"
    return Check("caution", words, field, GRAVITY_BORE)


def check_feed(name: str, feed: float, carries: float, field: str) -> Check:
    """What is fed at full pressure and what the drain carries, standing [m3/s]."""
    figures = f"{feed * 60e3:.1f} L/min fed at full pressure"
    if carries > 0.0 and FEED_FITS.holds(feed / carries):
        words = f"{name} carries {carries * 60e3:.1f} L/min, standing, of {figures}"
        return Check("good", words, field, FEED_FITS)
    words = (
        f"{name} carries {carries * 60e3:.1f} L/min, standing, and {figures}: a smaller "
        "restrictor in the feed (2 mm is usual), or a wider drain"
    )
    return Check("bad", words, field, FEED_FITS)


def check_stage(stage: str, inlets: int, fall: bool, field: str) -> Check | None:
    """A scavenge stage that so many drains meet at, and whether each falls to the junction."""
    if OWN_STAGE.holds(inlets):
        return None
    if fall:
        words = (
            f"{inlets} drains meet ahead of {stage}, and each falls to the junction by itself: it "
            "may pull the dry one and starves none"
        )
        return Check("good", words, field, OWN_STAGE)
    words = (
        f"{inlets} drains meet at {stage}: as soon as one is dry, the other gets nothing. Give "
        "each a stage of its own, or let each fall to the junction with head to spare"
    )
    return Check("bad", words, field, OWN_STAGE)


def check_sweep(stage: str, share: float, rpm: float, field: str) -> Check:
    """Of what a stage sweeps, what comes with its foam at its greatest, and at which speed."""
    if STAGE_CARRIES.holds(share):
        words = f"{stage} has {share * 100:.0f} % of its sweep to do at the most, foam and all"
        return Check("good", words, field, STAGE_CARRIES)
    words = (
        f"{stage} is brought {share * 100:.0f} % of what it sweeps at {rpm:.0f} rpm, foam and all: "
        "a larger stage, a faster drive, or a smaller restrictor in the feed"
    )
    return Check("bad", words, field, STAGE_CARRIES)


def check_suction(name: str, pressure: float, field: str) -> Check | None:
    """Pressure that a line to a stage takes at the most that comes [Pa]."""
    if STAGE_SUCTION.holds(pressure):
        return None
    words = (
        f"{name} takes {pressure / 1e3:.0f} kPa to pull: a stage fills no longer beyond 20 to 30; "
        "a size wider"
    )
    return Check("caution", words, field, STAGE_SUCTION)


def check_filtered(name: str, root: str, field: str) -> Check:
    """A turbo whose feed leaves the line ahead of the filter."""
    words = (
        f"{name} is fed from {root}, ahead of the filter: take it from the gallery, the sender's "
        "tee or the filter's outlet"
    )
    return Check("bad", words, field, FEED_FILTERED)


def check_restricted(name: str, field: str) -> Check:
    """A turbo whose feed has no restrictor."""
    words = (
        f"{name}'s feed has no restrictor: at full pressure it outruns most drains; about 2 mm is "
        "usual for plain bearings, less for balls: its maker says"
    )
    return Check("caution", words, field, FEED_RESTRICTED)


def check_crankcase(pressure: float, field: str) -> Check:
    """The crankcase's highest pressure over a lap [Pa]."""
    mbar = pressure / 100.0
    if CRANKCASE.holds(pressure):
        return Check("good", f"The crankcase has {mbar:.1f} mbar at most", field, CRANKCASE)
    words = (
        f"The crankcase has {mbar:.0f} mbar at most: it pushes oil back up every drain that oil "
        "shuts; a wider breather, or one more way up"
    )
    return Check("caution", words, field, CRANKCASE)


def check_vent(name: str, under: float, field: str) -> Check | None:
    """A breather's port under oil for so long of a lap [s]."""
    if VENT_UNDER.holds(under):
        return None
    words = f"{name} begins under oil for {under:.1f} s of the lap: it carries oil into the can"
    return Check("caution", words, field, VENT_UNDER)
