"""A whole school as a Frictionless data package, and back."""
