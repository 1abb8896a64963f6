"""Where the Celsius scale begins."""

from __future__ import annotations

ZERO_CELSIUS = 273.15
"""[K], by definition (SI brochure, 9th edition, 2.3.1)."""
