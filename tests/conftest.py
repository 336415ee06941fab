"""Shared by all tests."""

from __future__ import annotations

import os

from hypothesis import settings

# The machine that runs the checks may be busy; a slow example is not a wrong one.
settings.register_profile("lauf", deadline=None, max_examples=100)
settings.load_profile("lauf")

# Playwright's loop lives in the test's thread; the tests still use Django's database plainly.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
