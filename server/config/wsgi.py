"""The application that gunicorn serves."""

import os

from bilge_core.warm import warm_up
from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
application = get_wsgi_application()
warm_up()
