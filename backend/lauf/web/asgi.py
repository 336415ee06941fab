"""The ASGI application that uvicorn serves."""

import os
import warnings
from typing import cast

# WhiteNoise hands files over as plain iterators; Django reads small files that way well enough.
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous")

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lauf.web.settings")

from django.core.asgi import get_asgi_application

from lauf.web.guard import Application, Guard

application = Guard(cast("Application", get_asgi_application()))
