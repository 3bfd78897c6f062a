"""What a log says: rates with honest intervals, comparisons and what confounds them. Server only (numpy)."""
