"""Oil that falls back: drains by gravity, what holds them back, and the gas that breathes out."""

VERSION = "drains-4"
"""Of drains and breathing: to be changed with anything that changes a figure."""
