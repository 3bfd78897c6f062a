"""From a situation to three ranked rigs, with reasons."""
