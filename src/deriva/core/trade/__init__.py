"""The trade explained where it is met: knots, casts, what to do when it goes wrong, lists. Common practice, no source."""
