"""The stage Job card."""
