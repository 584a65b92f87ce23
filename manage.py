"""Django's command line for this project; `./pantry` is the one a person calls."""

import os
import sys

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "roundpantry.config.settings.local")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)
