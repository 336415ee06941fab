"""Files and handouts."""
