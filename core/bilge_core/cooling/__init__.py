"""Heat into the oil and out of it: coolers, the thermostat, the temperature over a stint."""

VERSION = "cooling-1"
"""Of all that makes a figure here: to be changed with anything that moves one."""
