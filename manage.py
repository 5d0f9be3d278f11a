#!/usr/bin/env python
"""Django's command line."""

import os
import sys
from pathlib import Path

from django.core.management import execute_from_command_line

sys.path.insert(0, str(Path(__file__).resolve().parent / "src"))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ulsek.site.settings")
execute_from_command_line(sys.argv)
