"""Digest of the core's source, by which a browser knows whether its copy is the same as the site's."""

from __future__ import annotations

from functools import cache
from hashlib import sha256
from pathlib import Path

import ulsek.core

KINDS = (".py", ".json", ".csv", ".mo")
"""What the core consists of. `web/browser-core.ts` packs the same files and digests them in the same way."""


@cache
def core_digest() -> str:
    """Returns the digest [32 hex digits] of every file of the core with its path below it, in the order of the paths."""
    folder = Path(ulsek.core.__file__).parent
    digest = sha256()
    for path in sorted((item for item in folder.rglob("*") if item.suffix in KINDS), key=lambda item: item.relative_to(folder).as_posix()):
        digest.update(f"{path.relative_to(folder).as_posix()}\0".encode() + path.read_bytes() + b"\0")
    return digest.hexdigest()[:32]
