"""Reads only: lanes, the check list, the pupil record."""
