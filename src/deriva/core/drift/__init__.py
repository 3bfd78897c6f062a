"""What a rig does under water."""
