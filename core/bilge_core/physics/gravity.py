"""Standard gravity."""

from __future__ import annotations

STANDARD_GRAVITY = 9.80665
"""[m/s2], by definition (3rd CGPM, 1901)."""
