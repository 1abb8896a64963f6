"""Four numbers at once, in the processor's lanes: what a particle gives eight faces or centres.

The compiler does not find these by itself: eight sums to places that may be the same. What they
give is what the plain loops of `tests/core/test_lanes.py` give, to rounding.

A particle reaches two places along each of three axes: the first as it is, the second a step on,
with weights that sum to one. Corners are in the order (axis 2, axis 3): low low, high low, low
high, high high.
"""

from __future__ import annotations

from typing import Any

from llvmlite import ir
from numba import types
from numba.extending import intrinsic
from numba.np import arrayobj

_FLOAT, _INDEX, _PLACE = ir.FloatType(), ir.IntType(32), ir.IntType(64)
_FOUR, _TWO = ir.VectorType(_FLOAT, 4), ir.VectorType(_FLOAT, 2)
_ONE = ir.Constant(_FLOAT, 1.0)
_FLAGS = ("contract", "reassoc", "nsz", "arcp")
"""As `bilge_core.moving.transfer.FAST`: all but assume that there is no NaN."""


def _four(builder: Any, *values: Any) -> Any:
    found = ir.Constant(_FOUR, ir.Undefined)
    for lane, value in enumerate(values):
        found = builder.insert_element(found, value, ir.Constant(_INDEX, lane))
    return found


def _lanes(*numbers: int) -> Any:
    return ir.Constant(ir.VectorType(_INDEX, len(numbers)), list(numbers))


class _Sums:
    """Sums and products with the flags above."""

    def __init__(self, builder: Any) -> None:
        self._builder = builder

    def add(self, one: Any, other: Any) -> Any:
        return self._builder.fadd(one, other, flags=_FLAGS)

    def less(self, one: Any, other: Any) -> Any:
        return self._builder.fsub(one, other, flags=_FLAGS)

    def times(self, one: Any, other: Any) -> Any:
        return self._builder.fmul(one, other, flags=_FLAGS)

    def all_four(self, value: Any) -> Any:
        return _four(self._builder, value, value, value, value)

    def corners(self, second: Any, third: Any) -> Any:
        """Weights of the four corners of axes 2 and 3."""
        low2, low3 = self.less(_ONE, second), self.less(_ONE, third)
        along2 = _four(self._builder, low2, second, low2, second)
        return self.times(along2, _four(self._builder, low3, low3, third, third))


def _data(context: Any, builder: Any, kind: Any, array: Any) -> Any:
    return arrayobj.make_array(kind)(context, builder, array).data


@intrinsic
def _scatter(  # type: ignore[no-untyped-def]
    typing, field, c, s1, s2, s3, w1, w2, w3, volume, base, g1, g2, g3, o1, n1, o2, n2, o3, n3
):
    """One component to its eight faces: to each pair of `field` momentum, and weight.

    `c` is the first face, `s` the steps to the second along its own axis and the two others, `w`
    the weights there; `base` the particle's velocity, `g` its slopes, `o` and `n` the ways from the
    particle to the first place along each axis and to the second.
    """
    signature = types.void(field, *[types.int64] * 4, *[types.float32] * 14)

    def made(context: Any, builder: Any, found: Any, given: Any) -> Any:
        array, first, s1, s2, s3, w1, w2, w3, volume, base, g1, g2, g3, o1, n1, o2, n2, o3, n3 = (
            given
        )
        data, sums = _data(context, builder, found.args[0], array), _Sums(builder)
        corners = sums.corners(w2, w3)
        sideways = sums.add(
            sums.times(sums.all_four(g2), _four(builder, o2, n2, o2, n2)),
            sums.times(sums.all_four(g3), _four(builder, o3, o3, n3, n3)),
        )
        beyond = sums.times(w1, volume)
        ends = ((first, sums.less(volume, beyond), o1), (builder.add(first, s1), beyond, n1))
        for place, share, way in ends:
            weights = sums.times(corners, sums.all_four(share))
            speed = sums.all_four(sums.add(base, sums.times(g1, way)))
            momenta = sums.times(weights, sums.add(speed, sideways))
            for lanes, row in (((0, 4, 1, 5), place), ((2, 6, 3, 7), builder.add(place, s3))):
                pairs = builder.shuffle_vector(momenta, weights, _lanes(*lanes))
                for half, node in (((0, 1), row), ((2, 3), builder.add(row, s2))):
                    at = builder.gep(data, [builder.shl(node, ir.Constant(_PLACE, 1))])
                    pointer = builder.bitcast(at, _TWO.as_pointer())
                    pair = builder.shuffle_vector(pairs, pairs, _lanes(*half))
                    builder.store(sums.add(builder.load(pointer, align=4), pair), pointer, align=4)
        return context.get_dummy_value()

    return signature, made


@intrinsic
def _splat(typing, field, c, s1, s2, s3, w1, w2, w3, volume):  # type: ignore[no-untyped-def]
    """A volume to its eight cell centres; see `_scatter`."""
    signature = types.void(field, *[types.int64] * 4, *[types.float32] * 4)

    def made(context: Any, builder: Any, found: Any, given: Any) -> Any:
        array, first, s1, s2, s3, w1, w2, w3, volume = given
        data, sums = _data(context, builder, found.args[0], array), _Sums(builder)
        corners = sums.corners(w2, w3)
        beyond = sums.times(w1, volume)
        for place, share in (
            (first, sums.less(volume, beyond)), (builder.add(first, s1), beyond)
        ):  # fmt: skip
            weights = sums.times(corners, sums.all_four(share))
            across = builder.add(place, s3)
            nodes = (place, builder.add(place, s2), across, builder.add(across, s2))
            for lane, node in enumerate(nodes):
                at = builder.gep(data, [node])
                mine = builder.extract_element(weights, ir.Constant(_INDEX, lane))
                builder.store(sums.add(builder.load(at), mine), at)
        return context.get_dummy_value()

    return signature, made


scatter: Any = _scatter
splat: Any = _splat
"""As compiled loops call them: the compiler gives the first argument itself."""
