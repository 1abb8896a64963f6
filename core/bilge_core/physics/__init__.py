"""What everybody needs: frames, gravity, turns, and the types of arrays."""
