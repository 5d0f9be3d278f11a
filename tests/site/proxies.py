"""A wire between the site and its database that a test can cut, at the moment that hurts most."""

import contextlib
import socket
import threading

from django.db import connection

FULL = b"\x17\x00\x00\x00\xff\x10\x04Too many connections"
"""What MariaDB says to a client for whom it has no connection left: error 1040."""


class Wire:
    """Passes bytes between a port of its own and the database.

    Cuts the connection once, after `word` was sent and answered and before the answer comes through. While it is `full`, nobody gets in.
    """

    def __init__(self, word="", *, full=False):
        self.word, self.cut, self.full = word.lower().encode(), not word, full
        self.server = socket.create_server(("127.0.0.1", 0))
        self.port = self.server.getsockname()[1]
        self.target = ("127.0.0.1", int(connection.settings_dict["PORT"]))
        threading.Thread(target=self._accept, daemon=True).start()

    def _accept(self):
        with contextlib.suppress(OSError):
            while True:
                client, _ = self.server.accept()
                if self.full:
                    client.sendall(FULL)
                    client.close()
                    continue
                upstream = socket.create_connection(self.target)
                hurt = threading.Event()
                threading.Thread(target=self._forward, args=(client, upstream, hurt), daemon=True).start()
                threading.Thread(target=self._back, args=(upstream, client, hurt), daemon=True).start()

    def _forward(self, client, upstream, hurt):
        with contextlib.suppress(OSError):
            while data := client.recv(65536):
                if not self.cut and self.word in data.lower():
                    self.cut = True
                    hurt.set()
                upstream.sendall(data)
        upstream.close()

    def _back(self, upstream, client, hurt):
        with contextlib.suppress(OSError):
            while data := upstream.recv(65536):
                if hurt.is_set():
                    break  # the database has done it; nobody hears so
                client.sendall(data)
        for end in (client, upstream):
            with contextlib.suppress(OSError):
                end.shutdown(socket.SHUT_RDWR)
            end.close()


@contextlib.contextmanager
def through(wire):
    """The site's connection goes through this wire."""
    port = connection.settings_dict["PORT"]
    connection.close()
    connection.settings_dict["PORT"] = wire.port
    try:
        yield wire
    finally:
        connection.close()
        connection.settings_dict["PORT"] = port
        wire.server.close()


def cut_after(word):
    """The site's connection goes through a wire that is cut once, after the database has done the query that holds `word`."""
    return through(Wire(word))


@contextlib.contextmanager
def full():
    """The database has no connection left, until the function that is handed out is called."""
    with through(Wire(full=True)) as wire:
        yield lambda: setattr(wire, "full", False)
