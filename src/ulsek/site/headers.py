"""Headers of static files."""

from collections.abc import MutableMapping


def static_headers(headers: MutableMapping[str, str], _path: str, url: str) -> None:
    """Sets the headers of static files: a worker has its own policy, and only the core's may compile WebAssembly."""
    if url.endswith((".js", ".mjs")):
        headers["Content-Security-Policy"] = "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; connect-src 'self'"
