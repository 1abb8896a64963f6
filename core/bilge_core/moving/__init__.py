"""The detailed solver: oil that moves in three dimensions, with a free surface."""

from typing import Literal, get_args

Fineness = Literal["quick", "bench", "fine"]
FINENESSES: tuple[Fineness, ...] = get_args(Fineness)
"""How coarse the cells are: see `bilge_core.moving.basin`."""

VERSION = "moving-7"
"""Part of what a stored result is known by: to be changed with anything that changes a figure."""
