"""The day: hours, lies, sky, and what the river does."""
