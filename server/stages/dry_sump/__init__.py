"""The stage Dry sump."""
