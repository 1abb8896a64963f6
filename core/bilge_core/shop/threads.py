"""Thread ends of lines and ports: sizes, drills, spanners, how each seals."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from typing import Literal, get_args

Family = Literal["flare", "o_ring", "taper", "metric", "stud", "hose", "barb", "flange", "weld"]
Sex = Literal["male", "female"]

INCH = 25.4e-3  # [m]

_SEALS: dict[Family, str] = {
    "flare": "on its cone: no tape, no sealant",
    "o_ring": "by its O-ring, oiled: no tape",
    "taper": "by its thread: tape 1 1/2 to 2 turns, beginning one thread back, or sealant",
    "metric": "by a bonded washer or two soft ones, new: no tape",
    "stud": "by the filter's own ring, oiled",
    "hose": "in its hose end, as the end's maker says",
    "barb": "by the hose itself, with a clip",
    "flange": "by its gasket, which must match the hole",
    "weld": "welded, by somebody licensed for it, and tested for leaks",
}
"""Common practice, no published source."""

_SOURCES: dict[Family, str] = {
    "flare": "SAE J514, from memory",
    "o_ring": "SAE J1926, from memory",
    "taper": "ASME B1.20.1",
    "metric": "ISO 261, from memory",
    "stud": "from memory",
    "hose": "common practice, no published source",
    "barb": "ours",
    "flange": "ours",
    "weld": "ours",
}


@dataclass(frozen=True)
class Thread:
    """A thread end, or what stands for one.

    key : by which it is known, as "flare 10" or "taper 1/2"
    family : how it seals
    size : as the trade says it
    thread : as it is cut; empty: none
    major : outside diameter of the thread [m]; None: no thread
    pitch : [m]
    drill : tapping drill, as it is bought; empty: nothing is tapped
    torque : lbf ft, from and to, steel on steel; None: by the maker of the end
    """

    key: str
    family: Family
    size: str
    thread: str = ""
    major: float | None = None
    pitch: float | None = None
    drill: str = ""
    torque: tuple[float, float] | None = None

    @property
    def words(self) -> str:
        """As a builder reads it."""
        named = {
            "flare": "37° flare", "o_ring": "straight with O-ring", "taper": "taper pipe",
            "metric": "", "stud": "filter stud", "hose": "hose", "barb": "hose barb",
            "flange": "flange,", "weld": "weld",
        }[self.family]  # fmt: skip
        return f"{named} {self.size}".strip()

    @property
    def seals(self) -> str:
        """What makes it tight, and what must not be put on it."""
        return _SEALS[self.family]

    @property
    def source(self) -> str:
        """Who says so."""
        return _SOURCES[self.family]


_UNIFIED = {
    3: ("3/8", 24, "Q", (8, 9)), 4: ("7/16", 20, "25/64", (11, 12)),
    5: ("1/2", 20, "29/64", (14, 15)), 6: ("9/16", 18, "33/64", (18, 20)),
    8: ("3/4", 16, "11/16", (36, 39)), 10: ("7/8", 14, "13/16", (57, 63)),
    12: ("1 1/16", 12, "63/64", (79, 88)), 16: ("1 5/16", 12, "1 15/64", (108, 113)),
    20: ("1 5/8", 12, "1 35/64", (127, 133)), 24: ("1 7/8", 12, "1 51/64", (158, 167)),
}  # fmt: skip
"""By dash: thread, threads an inch, tapping drill of its port [in], torque of a flare nut on a
steel end [lbf ft], all from memory; an aluminium end takes about half, by its maker."""

_TAPER = {
    "1/8": (0.405, 27.0, 0.1615, "11/32"), "1/4": (0.540, 18.0, 0.2278, "7/16"),
    "3/8": (0.675, 18.0, 0.240, "37/64"), "1/2": (0.840, 14.0, 0.320, "23/32"),
    "3/4": (1.050, 14.0, 0.339, "59/64"), "1": (1.315, 11.5, 0.400, "1 5/32"),
}  # fmt: skip
"""ASME B1.20.1, from memory: outside diameter of pipe [in], threads an inch, hand-tight engagement
[in], tapping drill without a reamer [in]."""

_METRIC = {
    "M10x1": (10.0, 1.0), "M12x1.5": (12.0, 1.5), "M14x1.5": (14.0, 1.5), "M16x1.5": (16.0, 1.5),
    "M18x1.5": (18.0, 1.5), "M22x1.5": (22.0, 1.5),
}  # fmt: skip
_STUDS = {
    "3/4-16": (19.05, 25.4 / 16), "13/16-16": (20.6375, 25.4 / 16), "M18x1.5": (18.0, 1.5),
    "M20x1.5": (20.0, 1.5), "M22x1.5": (22.0, 1.5),
}  # fmt: skip
DASHES = tuple(_UNIFIED)


def inches(size: str) -> float:
    """A size in inches as it is written, as a number.

    Examples
    --------
    >>> inches("1 5/16"), inches("3/8"), inches("1")
    (1.3125, 0.375, 1.0)
    """
    total = 0.0
    for part in size.split():
        over, _, under = part.partition("/")
        total += float(over) / float(under or 1)
    return total


def _made() -> dict[str, Thread]:
    found = []
    for dash, (size, tpi, drill, torque) in _UNIFIED.items():
        cut, major, pitch = f"{size}-{tpi}", inches(size) * INCH, INCH / tpi
        found += [
            Thread(f"flare {dash}", "flare", f"size {dash}", cut, major, pitch, "", torque),
            Thread(f"o_ring {dash}", "o_ring", f"size {dash}", cut, major, pitch, drill),
            Thread(f"hose {dash}", "hose", f"size {dash}"),
            Thread(f"barb {dash}", "barb", f"size {dash}"),
        ]
    for size, (across, turns, _, drill) in _TAPER.items():
        found.append(
            Thread(f"taper {size}", "taper", size, f"{size}-{turns:g}", across * INCH,
                   INCH / turns, drill)
        )  # fmt: skip
    for size, (across, step) in _METRIC.items():
        drill = f"{across - step:g} mm"
        found.append(
            Thread(f"metric {size}", "metric", size, size, across * 1e-3, step * 1e-3, drill)
        )
    for size, (across, step) in _STUDS.items():
        found.append(Thread(f"stud {size}", "stud", size, size, across * 1e-3, step * 1e-3))
    found += [
        Thread("flange drain", "flange", "turbo's drain"),
        Thread("flange feed", "flange", "turbo's feed"),
        Thread("weld", "weld", "bung"),
    ]
    return {each.key: each for each in found}


THREADS: dict[str, Thread] = _made()
"""All thread ends by their keys."""


@dataclass(frozen=True)
class TaperForm:
    """A taper pipe thread's form [m].

    small_end : pitch diameter at the small end, E0
    hand_tight : pitch diameter at hand-tight engagement, E1
    engagement : by hand, L1
    effective : thread in all that seals, L2
    """

    small_end: float
    hand_tight: float
    engagement: float
    effective: float


def taper_form(size: str) -> TaperForm:
    """Form of a taper pipe thread.

    Parameters
    ----------
    size : str
        Nominal, as "1/2".

    Raises
    ------
    KeyError
        If there is no such size.

    References
    ----------
    ASME B1.20.1, formulas (from memory): ``E0 = D - (0.05 D + 1.1) p``, ``E1 = E0 + L1 / 16``,
    ``L2 = (0.80 D + 6.8) p``.

    Examples
    --------
    >>> form = taper_form("1/2")
    >>> round(form.small_end / INCH, 5), round(form.effective / INCH, 5)
    (0.75843, 0.53371)
    """
    diameter, tpi, by_hand, _ = _TAPER[size]
    pitch = 1.0 / tpi
    small = diameter - (0.05 * diameter + 1.1) * pitch
    return TaperForm(
        small * INCH, (small + by_hand / 16.0) * INCH, by_hand * INCH,
        (0.80 * diameter + 6.8) * pitch * INCH,
    )  # fmt: skip


def tube_diameter(dash: int) -> float:
    """Outside diameter of the tube of a dash size [m]: sixteenths of an inch.

    Common practice, no published source.

    Examples
    --------
    >>> round(tube_diameter(10) * 1e3, 3)
    15.875
    """
    return dash / 16.0 * INCH


@dataclass(frozen=True)
class Joint:
    """One half of a joint: a thread end and whether it goes in or over."""

    thread: str
    sex: Sex

    @property
    def mate(self) -> Joint:
        """What screws onto it.

        Examples
        --------
        >>> Joint("flare 10", "male").mate
        Joint(thread='flare 10', sex='female')
        """
        return Joint(self.thread, "female" if self.sex == "male" else "male")

    @property
    def words(self) -> str:
        """As a builder reads it.

        >>> Joint("taper 1/2", "female").words
        'taper pipe 1/2, female'
        """
        return f"{THREADS[self.thread].words}, {self.sex}"


def joint_of(words: str) -> Joint | None:
    """A joint by what stands in a document: a thread's key and male or female; None: no such.

    Examples
    --------
    >>> joint_of("taper 1/2 female")
    Joint(thread='taper 1/2', sex='female')
    >>> joint_of("taper 5/8 female"), joint_of("flare 10")
    (None, None)
    """
    key, _, sex = words.strip().rpartition(" ")
    if key not in THREADS or sex not in ("male", "female"):
        return None
    return Joint(key, sex)  # type: ignore[arg-type]


JOINT_WANTED = "must be a thread and male or female, as 'taper 1/2 female' or 'flare 10 male'"
"""What is said of words that are no joint."""
NO_PORT = frozenset({"hose", "stud", "weld"})
"""Families that no port shows."""
NO_FITTING = frozenset({"hose", "stud"})
"""Families that no fitting has an end of."""


def joints(without: Collection[str]) -> dict[str, str]:
    """All joints but those of some families, by what `joint_of` takes, in words.

    Examples
    --------
    >>> joints(NO_PORT)["flare 10 male"], "weld male" in joints(NO_PORT)
    ('37° flare size 10, male', False)
    >>> "weld male" in joints(NO_FITTING), "hose 10 male" in joints(NO_FITTING)
    (True, False)
    """
    return {
        f"{key} {sex}": f"{each.words}, {sex}"
        for key, each in THREADS.items()
        for sex in get_args(Sex)
        if each.family not in without
    }
