"""The served settings, with password hashing that does not slow every test down."""

from lauf.web.settings import *  # noqa: F403

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
