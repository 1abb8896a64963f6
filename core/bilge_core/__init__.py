"""The computation of Bilge: pan, oil, loads and what the pickup finds. SI inside."""

MODEL_VERSION = "settled-1"
"""Named in every forecast, so that a stored figure says which model made it."""
