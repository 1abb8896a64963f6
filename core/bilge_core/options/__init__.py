"""Remedies for a build that runs dry: each tried on its own laps, and the least that holds."""

VERSION = "options-3"
"""To be changed with anything that changes which remedies there are, or what a trial gives."""
