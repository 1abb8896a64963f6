"""The stage Track book."""
