"""The computation of Bilge: pan, oil, loads and what the pickup finds. SI inside."""
