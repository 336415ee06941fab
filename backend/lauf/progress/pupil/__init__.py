"""The pages of one child."""
