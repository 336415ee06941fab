"""Lessons, what is done in them, and what the clock really did."""
