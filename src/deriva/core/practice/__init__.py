"""The practice river: hidden waters, the drifts that are fished in them, and the games of it (numpy; not on the phone)."""
