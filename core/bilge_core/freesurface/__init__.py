"""The detailed solver: oil that moves in three dimensions, with a free surface."""

SOLVER_VERSION = "moving-3"
"""Part of what a stored result is known by: to be changed with anything that changes a figure."""
