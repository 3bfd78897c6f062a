"""Open formats in and out: one a file, pure text to records and back."""
