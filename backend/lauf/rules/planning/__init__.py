"""A lesson: its blocks, the timeline they make, who is where, and who is kept from what."""
