#!/usr/bin/env python
"""Django's commands with Caracol's settings."""

import os
import sys

from django.core.management import execute_from_command_line

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "caracol.studio.settings")
execute_from_command_line(sys.argv)
