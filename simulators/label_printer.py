"""A simulated label printer: keeps what it printed, so that it can be read back."""

from __future__ import annotations

from collections.abc import Sequence

from .instrument import Instrument, run


class LabelPrinter(Instrument):
    """Takes a label line by line and prints it at `cut`; refuses while the paper is out."""

    name = "label_printer"
    port = 9716

    def __init__(self) -> None:
        super().__init__()
        self.paper = True
        self.open: list[str] = []
        self.printed: list[list[str]] = []

    def told(self, words: Sequence[str]) -> str:
        text = " ".join(words)
        match words[0]:
            case "label":
                self.open = [text]
            case "line" | "strong" | "code":
                if not self.open:
                    return "fault no label"
                self.open.append(text)
            case "cut":
                if not self.paper:
                    return "fault paper"
                if not self.open:
                    return "fault no label"
                self.printed.append(self.open)
                self.open = []
                return f"printed {len(self.printed)}"
            case _:
                return super().told(words)
        return "done"

    def moved(self, words: Sequence[str]) -> str:
        match words:
            case ["paper", "out" | "in" as state]:
                self.paper = state == "in"
            case ["printed"]:
                return " | ".join(" / ".join(label) for label in self.printed) or "nothing"
            case _:
                return super().moved(words)
        return "done"


if __name__ == "__main__":
    run(LabelPrinter())
