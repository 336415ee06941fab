"""Files in open formats."""
