"""Pressure: the oil circuit."""
