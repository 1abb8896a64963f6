"""What a spacer under the pan does to the document's zones."""

from __future__ import annotations

from bilge_core.document.floors import lowered
from bilge_core.document.ids import Document


def without_spacer(zone: Document, spacer: float) -> Document:
    """A zone as it would be without what a spacer lowered it by.

    Parameters
    ----------
    zone : dict
        As plain data.
    spacer : float
        Its thickness [mm].

    Examples
    --------
    >>> without_spacer({"floor": {"kind": "flat", "depth_mm": 82.0}}, 6.0)
    {'floor': {'kind': 'flat', 'depth_mm': 76.0}}
    """
    return {**zone, "floor": lowered(zone["floor"], -spacer)}
