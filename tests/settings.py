"""The served settings, without what would slow every test down: hashing that is meant to be slow,
and a list of all built files for every client."""

from lauf.web.settings import *  # noqa: F403

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
WHITENOISE_AUTOREFRESH = True
