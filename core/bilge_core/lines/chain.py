"""The shortest chain of fittings from a port to a line's own end."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from functools import lru_cache

import networkx as nx

from bilge_core.errors import InvalidQuantity
from bilge_core.shop.fittings import FITTINGS, Fitting
from bilge_core.shop.threads import Joint

_A_PART = 1e6
_MONEY = 1e2
"""Weights: one part more counts more than any cost, a coin more than any height (ours)."""
_MOST_PARTS = 4


@dataclass(frozen=True)
class Chain:
    """Fittings in the order in which they are screwed on, from the port out.

    fittings : tuple of Fitting; none where the line's end screws straight on
    """

    fittings: tuple[Fitting, ...]

    @property
    def cost(self) -> float:
        """Of all of them, as the starting set has it."""
        return sum(each.cost for each in self.fittings)

    @property
    def height(self) -> float:
        """From the port to the line's end [m]."""
        return sum(each.height for each in self.fittings)


def _weight(part: Fitting) -> float:
    return _A_PART + _MONEY * part.cost + part.height


Own = tuple[Fitting, ...]
"""Fittings that a workshop keeps besides the starting set."""


@lru_cache(maxsize=64)
def _ways(straight: bool, own: Own) -> nx.DiGraph:
    """From what is shown to what is shown next; each way by its best fitting."""
    ways = nx.DiGraph()
    for part in (*FITTINGS.values(), *own):
        if straight and part.angle:
            continue
        for entry, shown in (part.ends, part.ends[::-1]):
            here = entry.mate
            weight = _weight(part)
            if not ways.has_edge(here, shown) or ways[here][shown]["weight"] > weight:
                ways.add_edge(here, shown, weight=weight, part=part)
    return ways


def _read(ways: nx.DiGraph, path: list[Joint]) -> Chain:
    return Chain(tuple(ways[here][there]["part"] for here, there in itertools.pairwise(path)))


def _rank(chain: Chain) -> tuple[int, int, float, float]:
    """By count, then straight before angled, then cost, then height."""
    angled = sum(part.angle > 0 for part in chain.fittings)
    return len(chain.fittings), angled, chain.cost, chain.height


def chains(port: Joint, end: Joint, most: int = 3, own: Own = ()) -> tuple[Chain, ...]:
    """Chains from a port to what screws on at the line's end, the best first.

    Parameters
    ----------
    port : Joint
        As the port shows itself.
    end : Joint
        Of the line: a hose end's flare, female.
    most : int
        Chains that are told.
    own : tuple of Fitting
        What the workshop keeps besides the starting set.

    Returns
    -------
    tuple of Chain
        Empty where none of up to four parts fits: a part must be made.

    Raises
    ------
    InvalidQuantity
        If fewer than one is wanted.

    Notes
    -----
    By count, straight before angled, then cost, then height.

    References
    ----------
    Dijkstra's and Yen's shortest paths, as `networkx` has them.

    Examples
    --------
    >>> port, end = Joint("taper 1/2", "female"), Joint("flare 10", "female")
    >>> [part.words for part in chains(port, end)[0].fittings]
    ['adaptor, taper 1/2 to flare size 10']
    >>> chains(end.mate, end)[0].fittings
    ()
    """
    if most < 1:
        raise InvalidQuantity("chains", most, "one or more")
    wanted = end.mate
    if port == wanted:
        return (Chain(()),)
    found: list[Chain] = []
    for straight in (True, False):
        ways = _ways(straight, own)
        if port not in ways or wanted not in ways or not nx.has_path(ways, port, wanted):
            continue
        for path in itertools.islice(nx.shortest_simple_paths(ways, port, wanted, "weight"), most):
            chain = _read(ways, path)
            if len(chain.fittings) <= _MOST_PARTS and chain not in found:
                found.append(chain)
    found.sort(key=_rank)
    return tuple(found[:most])


def chain_of(keys: list[str], own: Own = ()) -> Chain | None:
    """A chain that was chosen, by its fittings' keys; None where one is not known.

    Parameters
    ----------
    keys : list of str
    own : tuple of Fitting
        What the workshop keeps besides the starting set.

    Examples
    --------
    >>> chain_of(["union_10"]).fittings[0].words, chain_of(["left-handed"])
    ('union, size 10', None)
    """
    kept = {each.key: each for each in own}
    parts = [FITTINGS.get(key) or kept.get(key) for key in keys]
    return None if None in parts else Chain(tuple(part for part in parts if part is not None))


def screws(port: Joint, chain: Chain, end: Joint) -> bool:
    """Whether a chain screws together from a port to a line's end.

    Examples
    --------
    >>> bush = chain_of(["union_10"])
    >>> screws(Joint("flare 10", "female"), bush, Joint("flare 10", "female"))
    True
    >>> screws(Joint("taper 1/2", "female"), bush, Joint("flare 10", "female"))
    False
    """
    here = port
    for part in chain.fittings:
        first, second = part.ends
        if first == here.mate:
            here = second
        elif second == here.mate:
            here = first
        else:
            return False
    return here == end.mate
