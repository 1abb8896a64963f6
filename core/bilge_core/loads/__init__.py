"""Loads: frames and signs, logged laps, corners, the line driven."""
