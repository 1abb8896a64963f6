"""Shapes made elsewhere: a closed mesh of a pan's inside, an outline drawn flat."""
