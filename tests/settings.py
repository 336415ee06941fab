"""The served settings, without what would slow every test down: hashing that is meant to be slow,
and a list of all built files for every client."""

from lauf.web.settings import *  # noqa: F403

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
WHITENOISE_AUTOREFRESH = True
# Servers that ran in a test's threads keep their connections to the end of the process: ten devices
# at once find room beside them.
DATABASES["default"]["OPTIONS"]["pool"]["max_size"] = 20  # noqa: F405
