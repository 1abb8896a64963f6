"""Pan: fills, dips and checks."""
