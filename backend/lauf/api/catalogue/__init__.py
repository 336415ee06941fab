"""Tests and what they are judged by."""

from lauf.api.catalogue import batteries, benchmarks, courses, ladders, norms, tests

ROUTERS = [one.router for one in (batteries, benchmarks, courses, ladders, norms, tests)]
