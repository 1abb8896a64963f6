"""``bilge check --circuit``: the circuit alone over the lap, and what each guess in it moves."""

from __future__ import annotations

from bilge_core.document.build import Build
from bilge_core.forecast import SettledForecast
from bilge_core.forecast.alone import circuit_over, swings
from bilge_core.forecast.moving import MovingForecast
from bilge_core.forecast.verdict import pressure_dip_words
from bilge_core.network import network_of
from bilge_core.tell.alone import swing_out, swing_words

_MOST = 8


def circuit_lines(build: Build, forecast: SettledForecast | MovingForecast) -> list[str]:
    """In lines, on the gas share of a forecast: settled oil's, or moving oil's."""
    log, corners = forecast.log, forecast.corners
    alone = circuit_over(build, log, forecast.gas_share, corners, network_of(build))
    pressure = alone.pressure
    lines = [
        "",
        "  The circuit alone, on the gas that the mouth lets in:",
        f"  holds {alone.held * 1e3:.1f} L on average; lowest {pressure.lowest / 1e5:.1f} bar at "
        f"{pressure.lowest_at:.1f} s, where {pressure.usual / 1e5:.1f} is usual.",
    ]
    lines += [
        f"  {rank:3d}. at {dip.start:5.1f} s: {pressure_dip_words(dip)}"
        for rank, dip in enumerate(pressure.dips, start=1)
    ]
    told = [swing_out(swing) for swing in swings(build, log, corners)]
    lines += ["", "  What nobody measured, and what it moves from end to end of its range:"]
    lines += [f"  - {swing_words(each)}" for each in told[:_MOST] if each.moves]
    lines.append(
        f"  {sum(not each.moves for each in told)} more move dry time by less than 0.1 s and "
        "pressure by less than a twentieth."
    )
    return lines
