"""Challenges, games between schools and the warm-up game."""

from lauf.api.challenges import challenges, games, sets, warm_up

ROUTERS = [one.router for one in (challenges, games, sets, warm_up)]
