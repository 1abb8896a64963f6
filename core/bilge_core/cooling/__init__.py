"""Heat into the oil and out of it: coolers, the thermostat, the temperature over a stint."""
