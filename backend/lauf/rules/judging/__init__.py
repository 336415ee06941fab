"""What a score means: ladders, norms, change, trends, and what is asked about it."""
