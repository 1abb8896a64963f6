"""The stage Fit."""
