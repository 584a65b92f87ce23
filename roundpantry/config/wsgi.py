"""The WSGI entry of the project."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "roundpantry.config.settings.local")
application = get_wsgi_application()
