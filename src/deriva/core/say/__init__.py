"""What is said and drawn of an advice: cautions, the why of a number, the picture of a rig."""
