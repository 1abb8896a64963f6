"""A straight drain, its oil, and the demo's turbocharged car, for tests of drains."""

from __future__ import annotations

import numpy as np
from bilge_core.drains.line import DrainLine, Piece, foamed, line_along
from bilge_core.drains.standing import Load
from bilge_core.pan import assemble_pan

from demo.sandpiper import sandpiper

BUILD = sandpiper()
PAN = assemble_pan(BUILD)
G = 9.80665
UP = np.array([0.0, 0.0, 1.0])
OIL = foamed(820.0, 12e-6, 0.0)
FROTH = foamed(820.0, 12e-6, 0.4)
BELOW = Load(UP, G, -0.3)


def straight(
    high: float = 0.2, far: float = 0.1, bore: float = 0.0141, seal: float = 0.025
) -> DrainLine:
    return line_along(
        [(0, 0, high), (0, far, 0)], [0, 0], [Piece("hose", bore, 0.2)], [Piece("outlet", 0.016)],
        seal=(0, 0, high + seal),
    )  # fmt: skip
