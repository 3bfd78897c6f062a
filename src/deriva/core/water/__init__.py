"""What the water is and does: properties, current, reading, wading."""
