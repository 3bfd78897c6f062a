"""What is written down of a drift and a fish."""
