"""Loads: frames and signs, logged laps, corners, the line driven."""

VERSION = "loads-1"
"""Of finding corners and gravity in a lap: to be changed with anything that changes them."""
