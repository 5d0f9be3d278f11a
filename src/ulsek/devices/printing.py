"""Label printers over their plain line protocol. The answers of the printer are what counts."""

from __future__ import annotations

import re
from collections.abc import Sequence
from uuid import UUID

import serial
from django.shortcuts import get_object_or_404

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member

from .addresses import is_allowed
from .label import Label, checked_size
from .lines import MOST_IN_LINE
from .models import Instrument

_WAIT_S = 2.0
_PLAIN = re.compile(r"[^\x20-\x7e]")
_SPELLED = str.maketrans({"–": "-", "—": "-", "\N{RIGHT SINGLE QUOTATION MARK}": "'", "“": '"', "”": '"', "°": " deg ", "\u2009": " ", "\u00a0": " ", "±": "+-", "≤": "<=", "é": "e", "è": "e", "ü": "u", "ö": "o", "ä": "a", "ß": "ss"})  # fmt: skip


def plain(text: str) -> str:
    """Returns a text in the printer's own letters."""
    return _PLAIN.sub("?", text.translate(_SPELLED)).strip()


def print_lines(printer: Instrument, labels: Sequence[Sequence[str]]) -> int:
    """Prints each label and returns how many [count]. Raises Refusal, with the count printed, if the printer cannot be reached or stops."""
    out = 0
    try:
        with serial.serial_for_url(printer.address, timeout=_WAIT_S) as port:
            for label in labels:
                for line in (*label, "cut"):
                    port.write(f"{plain(line)}\n".encode("ascii"))
                    answer = port.read_until(b"\n", MOST_IN_LINE).decode("ascii", "replace").strip()
                    if not answer.startswith(("done", "printed")):
                        out_of_paper, silent = message("its paper is out"), message("it says nothing")
                        why = out_of_paper if answer == "fault paper" else message("it did not take the line") if answer else silent
                        raise Refusal(
                            message(
                                "{printer} stopped after {out} of {n} labels: {why}", printer=printer.name, out=out, n=len(labels), why=why
                            ),
                            "printer",
                            remedy=message("See to it and print again, or save the PDF"),
                            code="printer",
                        )
                out += 1
    except OSError:
        raise Refusal(
            message("{printer} cannot be reached", printer=printer.name),
            "printer",
            remedy=message("Switch it on and print again, or save the PDF"),
            code="printer",
        ) from None
    return out


def print_on(member: Member, printer: UUID, labels: Sequence[Label], size: str, *, what: str) -> int:
    """Prints labels of `what` on a printer of the house and returns how many [count]. Raises Refusal for an unknown size, and for a device that is no printer
    or stopped.
    """
    checked_size(size)
    found = get_object_or_404(Instrument, pk=printer, house=member.house, kind="label_printer")
    if not is_allowed(found.address):
        raise Refusal(
            message("{found} may not be opened", found=found.name),
            "printer",
            remedy=message("Ask whoever runs Ulsek, or save the PDF"),
            code="not_allowed",
        )
    count = print_lines(found, [label.plain(size) for label in labels])
    member.wrote("print_labels", what, count=count, printer=found.name)
    return count
