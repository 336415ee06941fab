"""The pages of the whole school and of its tests."""
