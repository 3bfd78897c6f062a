"""What a euro, an indicator and a dry-dropper rig are made of."""
