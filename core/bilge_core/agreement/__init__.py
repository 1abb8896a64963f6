"""What was measured, held against what was drawn or forecast."""
