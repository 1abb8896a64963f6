"""Gaps: pan to what is round it, pan to ground, oil to crank."""
