"""A dry sump: its stages, its tank, and the oil between them."""

VERSION = "scavenge-2"
"""To be changed with anything that changes a dry sump's figure."""
