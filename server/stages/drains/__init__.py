"""Drains and breathing: oil that goes up must come back."""
