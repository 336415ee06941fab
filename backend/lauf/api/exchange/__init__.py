"""Files and handouts."""

from lauf.api.exchange import files, handouts, merges, retention

ROUTERS = [one.router for one in (files, handouts, merges, retention)]
