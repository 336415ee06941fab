"""Challenges and games: points, rivals, sets, levels of awards, the board game."""
