"""The ASGI application that uvicorn serves."""

import os

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lauf.web.settings")

from django.core.asgi import get_asgi_application

application = get_asgi_application()
