"""What the settings need to be read at all, where a test is run by hand and not by bin/test: a secret that guards nothing."""

import os
import secrets

os.environ.setdefault("ULSEK_SECRET_KEY", secrets.token_hex(32))
