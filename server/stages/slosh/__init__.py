"""Slosh: the pan, and the lap in it."""
