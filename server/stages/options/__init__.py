"""Options: remedies tried on the build's own laps, and the smallest that holds."""
