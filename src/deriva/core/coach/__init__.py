"""What touches, hang-ups and the pace say of the water, and what to change next."""
