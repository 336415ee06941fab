"""The hall, used as a teacher uses it."""
