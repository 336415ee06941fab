"""The demo school: made up, relative to today, the same on every machine."""
