"""The stage Lines."""
