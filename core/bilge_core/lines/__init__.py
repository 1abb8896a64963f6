"""Lines: every run from port to port, its fittings, how it bends and what is ordered for it."""
