"""The pickup: its mouth, what the pump asks of it, and what it draws down."""
