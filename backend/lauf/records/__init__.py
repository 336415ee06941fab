"""Attempts: append-only, corrected by succession."""
