"""The pages of a lesson: a class in a test, all tests, targets, pulses, and what is missing."""
