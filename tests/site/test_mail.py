"""Invitations by mail, through a real server on loopback; without one the link is sent by hand."""

import socketserver
import threading
from email import message_from_string

import pytest

from tests.instruments import free_port


class Mailbox(socketserver.StreamRequestHandler):
    """As much of a mail server (RFC 5321) as takes one mail."""

    def handle(self):
        self.said("220 here")
        while line := self.rfile.readline():
            word = line.decode().strip().upper().split(" ")[0].split(":")[0]
            if word == "DATA":
                self.said("354 go on")
                text = b""
                while not text.endswith(b"\r\n.\r\n"):
                    text += self.rfile.readline()
                self.server.mails.append(text[:-5].decode())
            self.said("221 bye" if word == "QUIT" else "550 full" if word == "RCPT" and self.server.full else "250 well")
            if word == "QUIT":
                return

    def said(self, line):
        self.wfile.write(f"{line}\r\n".encode())


@pytest.fixture
def box(settings):
    server = socketserver.ThreadingTCPServer(("127.0.0.1", 0), Mailbox)
    server.mails, server.full, server.daemon_threads = [], False, True
    threading.Thread(target=server.serve_forever, daemon=True).start()
    settings.EMAIL_BACKEND = "django.core.mail.backends.smtp.EmailBackend"
    settings.EMAIL_HOST, settings.EMAIL_PORT = server.server_address
    settings.EMAIL_USE_TLS, settings.DEFAULT_FROM_EMAIL = False, "ulsek@bar.example"
    settings.BASE_ADDRESS = "https://bar.example"
    yield server
    server.shutdown()
    server.server_close()


def invite(place, mail):
    return place.apis["lead"].post("/invitations", {"name": "Kaja", "role": "maker", "mail": mail})


def test_the_link_of_an_invitation_is_mailed_and_works(place, box):
    assert place.apis["lead"].get("/session").data["sends_mail"]
    made = invite(place, "kaja@home.example").data
    assert made["mailed"] is True
    (mail,) = map(message_from_string, box.mails)
    assert (mail["To"], mail["From"], mail["Subject"]) == ("kaja@home.example", "ulsek@bar.example", "Come in to Tern House")
    assert f"https://bar.example/join#{made['code']}" in mail.get_payload()
    assert invite(place, "").data["mailed"] is None
    assert len(box.mails) == 1


def test_what_cannot_be_mailed_is_said_and_the_link_still_stands(place, box, settings):
    for wrong in (
        "kaja",
        "a@b",
        "kaja@home.example, other@home.example",
        "kaja@home.example\r\nBcc: x@y.example",
        "x" * 250 + "@home.example",
    ):
        answer = invite(place, wrong)
        assert (answer.status_code, answer.data["where"]) == (422, "mail"), wrong
    assert box.mails == []
    box.full = True
    refused = invite(place, "kaja@home.example").data
    assert (refused["mailed"], len(refused["code"]) > 10) == (False, True)
    settings.EMAIL_PORT = free_port()
    assert invite(place, "kaja@home.example").data["mailed"] is False, "the server is away"
    settings.EMAIL_HOST = ""
    answer = invite(place, "kaja@home.example")
    assert (answer.data["code"], place.apis["lead"].get("/session").data["sends_mail"]) == ("no_mail", False)
