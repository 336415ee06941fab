"""From what is typed to a value, and back to what is read: units, kinds, readers, rounding."""
