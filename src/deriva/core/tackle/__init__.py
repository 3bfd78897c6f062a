"""Geometry, mass and drag of beads, flies, tippet, floats and dries."""
