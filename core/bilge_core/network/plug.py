"""The suction tube: oil and gas go through it in the order in which they came in.

A mixed volume would smear a short gulp of air: a trial found the lowest pressure after 0.1 s of gas
0.8 bar too high. So parcels, each with its volume and share of gas, in a ring.
"""

from __future__ import annotations

from numba import njit

from bilge_core.network.records import PARCELS

_ALIKE = 1e-4  # share of gas by which parcels that are put together may differ (ours)


@njit
def gas_about_to_leave(parcels, whole, volume):  # type: ignore[no-untyped-def]
    """Mean share of gas of what leaves next, a volume [m3] of it."""
    left = volume
    gas = 0.0
    at = whole[0].first
    for _ in range(whole[0].parcels):
        part = min(left, parcels[at, 0])
        gas += part * parcels[at, 1]
        left -= part
        if left <= 0.0:
            break
        at = at + 1 if at + 1 < PARCELS else 0
    met = volume - left
    return gas / met if met > 0.0 else parcels[whole[0].first, 1]


@njit
def push(parcels, whole, volume, gas, at_mouth):  # type: ignore[no-untyped-def]
    """Oil and gas come in at the mouth's end, or, when oil runs back, at the pump's."""
    if volume <= 0.0:
        return
    first, count = whole[0].first, whole[0].parcels
    end = (first + count - 1) % PARCELS if at_mouth else first
    if count > 0 and (count == PARCELS or abs(parcels[end, 1] - gas) < _ALIKE):
        both = parcels[end, 0] + volume
        parcels[end, 1] = (parcels[end, 0] * parcels[end, 1] + volume * gas) / both
        parcels[end, 0] = both
        return
    new = (first + count) % PARCELS if at_mouth else (first - 1) % PARCELS
    parcels[new, 0] = volume
    parcels[new, 1] = gas
    whole[0].parcels = count + 1
    if not at_mouth:
        whole[0].first = new


@njit
def pop(parcels, whole, volume, at_mouth):  # type: ignore[no-untyped-def]
    """Take a volume out, at the pump's end or the mouth's; gas in it [m3]."""
    left = volume
    gas = 0.0
    while left > 0.0 and whole[0].parcels > 0:
        at = whole[0].first
        if at_mouth:
            at = (at + whole[0].parcels - 1) % PARCELS
        part = min(left, parcels[at, 0])
        gas += part * parcels[at, 1]
        left -= part
        if part < parcels[at, 0]:
            parcels[at, 0] -= part
            break
        whole[0].parcels -= 1
        if not at_mouth:
            whole[0].first = (at + 1) % PARCELS
    return gas
