"""Challenges, games between schools and the warm-up game."""
