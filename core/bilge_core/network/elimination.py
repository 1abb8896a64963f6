"""A sparse elimination that is planned once: which entries meet which, in the order of least fill.

The circuit's matrix has the same pattern at every step, so the order of its elimination and every
entry that it makes are found when the network is assembled; a solve then walks through lists.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numba import njit

from bilge_core.network.records import MEETS, PIVOT, Rows


@dataclass(frozen=True)
class Elimination:
    """The plan of one pattern; entries of the matrix lie in one list, by place.

    places : shape (n, n), where an entry lies in the list; -1 where none ever is
    pivots : nodes as they are eliminated, and from which row of `meets` each one's neighbours
        begin; one row more than nodes
    meets : by neighbour still there: its node, the place of the entry in its row and of that in the
        pivot's, the first row of `targets`
    targets : places that change, neighbour by neighbour
    entries : length of the list
    """

    places: Rows
    pivots: Rows
    meets: Rows
    targets: Rows
    entries: int


def plan_elimination(nodes: int, pairs: Iterable[tuple[int, int]]) -> Elimination:
    """Plan the elimination of a matrix whose pattern is symmetric, least degree first.

    Parameters
    ----------
    nodes : int
        Size of the matrix.
    pairs : iterable of (int, int)
        Off-diagonal entries, in either order; those that repeat count once.

    Returns
    -------
    Elimination

    References
    ----------
    Minimum degree: W. F. Tinney and J. W. Walker, "Direct solutions of sparse network equations by
    optimally ordered triangular factorization", Proc. IEEE 55, 1967 (from memory).

    Examples
    --------
    >>> plan = plan_elimination(3, [(0, 1), (1, 2)])
    >>> plan.pivots["node"].tolist(), plan.entries  # no entry is made besides those given
    ([0, 1, 2, -1], 7)
    """
    near: list[set[int]] = [set() for _ in range(nodes)]
    for one, other in pairs:
        if one != other:
            near[one].add(other)
            near[other].add(one)
    places = np.full((nodes, nodes), -1, dtype=np.int32)
    np.fill_diagonal(places, np.arange(nodes))
    entries = nodes

    def place(row: int, column: int) -> int:
        nonlocal entries
        if places[row, column] < 0:
            places[row, column] = entries
            entries += 1
        return int(places[row, column])

    for row in range(nodes):
        for column in sorted(near[row]):
            place(row, column)
    left, pivots = set(range(nodes)), []
    meets: list[tuple[int, int, int, int]] = []
    targets: list[int] = []
    while left:
        node = min(left, key=lambda each: (len(near[each]), each))
        left.remove(node)
        pivots.append((node, len(meets)))
        neighbours = sorted(near[node])
        for row in neighbours:
            meets.append((row, place(row, node), place(node, row), len(targets)))
            targets.extend(place(row, column) for column in neighbours)
            near[row] |= set(neighbours)
            near[row] -= {row, node}
    pivots.append((-1, len(meets)))
    return Elimination(
        places,
        np.array(pivots, dtype=PIVOT),
        np.array(meets, dtype=MEETS),
        np.array(targets, dtype=np.int32),
        entries,
    )


@njit
def eliminate(matrix, nodes, pivots, meets, targets):  # type: ignore[no-untyped-def]
    """Solve in place: each node's `change` is the right side before and the solution after."""
    last = pivots.size - 1
    for k in range(last):
        node = pivots[k].node
        pivot = 1.0 / matrix[node]
        first, end = pivots[k].first, pivots[k + 1].first
        for at in range(first, end):
            factor = matrix[meets[at].below] * pivot
            if factor != 0.0:
                nodes[meets[at].other].change -= factor * nodes[node].change
                target = meets[at].target
                for column in range(first, end):
                    matrix[targets[target]] -= factor * matrix[meets[column].beside]
                    target += 1
    for k in range(last - 1, -1, -1):
        node = pivots[k].node
        total = nodes[node].change
        for at in range(pivots[k].first, pivots[k + 1].first):
            total -= matrix[meets[at].beside] * nodes[meets[at].other].change
        nodes[node].change = total / matrix[node]
