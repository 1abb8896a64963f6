"""The crank: oil below its sweep, trays clear of it, scrapers close to it."""

from __future__ import annotations

from bilge_core.rules.rule import COMMON, Check, Rule

OIL = Rule(
    "oil_below_crank", "The oil lies below the crank's swept circle", COMMON, low=0.0, unit="m"
)
TRAY = Rule(
    "tray_room", "A tray clears the crank's swept circle by 3 mm",
    "ours", low=3e-3, unit="m",
)  # fmt: skip
SCRAPER = Rule(
    "scraper_gap", "A scraper stands 1 to 3 mm off the crank's swept circle",
    "common practice, no published source: about 1/16 in; the limits round it are ours",
    low=1e-3, high=3e-3, unit="m",
)  # fmt: skip
SPLASH = Rule(
    "crank_splash", "Less than 0.02 L in the crank's sweep is a splash", "ours",
    high=20e-6, unit="m3",
)  # fmt: skip
THROWN_ALIKE = Rule(
    "thrown_alike", "Oil thrown by the crank that is within 15 % of another pan's is as much",
    "ours: so far did three models of a turning crank differ, a pan with a tray in it",
    low=1 / 1.15, high=1.15, unit="of the other's",
)  # fmt: skip
RULES = (OIL, TRAY, SCRAPER, SPLASH, THROWN_ALIKE)


def check_measured() -> Check:
    """A crank with usual figures."""
    words = "Nobody measured the crank: what is said of oil and trays under it is a guess"
    return Check("caution", words, "car.crank", OIL)


def check_standing(gap: float) -> Check:
    """Standing oil so far [m] below the crank's swept circle, negative in it."""
    if gap > 0.0:
        words = f"Standing oil is {gap * 1e3:.0f} mm below the crank's swept circle"
        return Check("good", words, "car.crank", OIL)
    words = (
        f"Standing oil reaches {abs(gap) * 1e3:.0f} mm into the crank's swept circle: too much oil"
    )
    return Check("bad", words, "car.crank", OIL)


def check_touched(seconds: float) -> Check | None:
    """For how long of the lap settled oil reaches the swept circle [s]."""
    if seconds <= 0.0:
        return None
    words = f"Settled oil reaches the crank's swept circle for {seconds:.1f} s of the lap"
    return Check("caution", words, "car.crank", OIL)


def check_tray(name: str, room: float, is_tray: bool, field: str) -> Check | None:
    """A level plate so far [m] below the swept circle; one that is no tray only when in it."""
    if room >= 0.0 and not is_tray:
        return None
    words = (
        f"{name} clears the crank's swept circle by {room * 1e3:.0f} mm"
        if room >= 0.0
        else f"{name} reaches {-room * 1e3:.0f} mm into the crank's swept circle"
    )
    return Check("good" if TRAY.holds(room) else "bad", words, field, TRAY)


def check_scraper(name: str, gap: float, field: str) -> Check:
    """A scraper so far [m] off the swept circle.

    Examples
    --------
    >>> check_scraper("left scraper", 0.5e-3, "pan.scrapers.0").words
    'left scraper stands 0.5 mm off the crank: it touches when crank and bearings give'
    """
    words = f"{name} stands {gap * 1e3:.1f} mm off the crank"
    if SCRAPER.holds(gap):
        return Check("good", words, field, SCRAPER)
    if gap < SCRAPER.least:
        words += ": it touches when crank and bearings give"
        return Check("bad", words, field, SCRAPER)
    return Check("caution", f"{words}: too far to strip the oil off it", field, SCRAPER)
