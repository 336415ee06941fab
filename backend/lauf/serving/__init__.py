"""Lauf as a service of a machine: the processes that answer, and what keeps it."""
