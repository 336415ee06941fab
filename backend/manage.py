"""Django's command line, for developers; `./lauf` sets what it needs."""

import os
import sys

from django.core.management import execute_from_command_line

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lauf.web.settings")
    # What is done here may take its time, as a change of all rows does.
    os.environ.setdefault("LAUF_DATABASE_OPTIONS", "-c lock_timeout=60s")
    execute_from_command_line(sys.argv)
