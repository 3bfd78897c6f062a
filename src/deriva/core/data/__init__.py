"""Published numbers, a table a subject."""
