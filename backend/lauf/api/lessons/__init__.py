"""A lesson: planned, run, and its scores taken."""
