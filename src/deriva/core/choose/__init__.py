"""Which rig, set how: what could be tried, what each does, how it is judged, and the search among them."""
