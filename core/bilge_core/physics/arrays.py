"""The types of arrays, by what their numbers are."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
"""Figures in SI."""

Single = NDArray[np.float32]
"""Figures of the moving oil, where memory is what takes time."""

Whole = NDArray[np.int32]
"""Numbers of cells, faces and rows."""
