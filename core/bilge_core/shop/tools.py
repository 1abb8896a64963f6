"""Tools that an order's parts are worked with, besides spanners."""

from __future__ import annotations

from collections.abc import Iterable

_BY_PART: tuple[tuple[tuple[str, ...], tuple[str, ...]], ...] = (
    (("tube_",), ("tube cutter and deburring tool", "tube bender of the size",
                  "37° flaring tool", "nuts and sleeves on before the second flare")),
    (("hose_end_",), ("fine-toothed hose cutter, tape round the cut", "soft vice jaws",
                      "air line to blow the hose through")),
    (("water_hose", "breather_hose", "spiral_clip"), ("knife", "screwdriver for hose clips")),
    (("taper_", "nipple_", "bush_", "barb_"), ("thread sealant or tape, for taper threads alone",)),
    (("o_ring_", "port_plug"), ("oil for O-rings",)),
    (("bung",), ("TIG welder, or a drill to size and the through-fitting's spanners",)),
    (("grommet", "bulkhead"), ("step drill and deburring tool",)),
    (("oil_filter",), ("filter wrench",)),
    (("metric_", "banjo_", "tube_nut_", "hose_end_", "union_"), ("torque wrench",)),
    (("clip_",), ("drill or rivet gun for clips",)),
    (("pump_drive",), ("straightedge along the belt", "belt tension gauge")),
)  # fmt: skip
"""By how a part's key begins (common practice, no published source)."""


def tools_for(parts: Iterable[str]) -> tuple[str, ...]:
    """Tools wanted besides spanners, each once.

    Parameters
    ----------
    parts : iterable of str
        Keys of the shop.

    Returns
    -------
    tuple of str
        In a fixed order, whatever order the parts come in.

    Examples
    --------
    >>> tools_for(["oil_filter", "port_plug"])
    ('oil for O-rings', 'filter wrench')
    """
    keys = tuple(parts)
    found = [
        tool
        for begins, tools in _BY_PART
        if any(key.startswith(begins) for key in keys)
        for tool in tools
    ]
    return tuple(dict.fromkeys(found))
