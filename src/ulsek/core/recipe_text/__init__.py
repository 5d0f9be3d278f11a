"""TextReading recipes: parser, amounts, steps, doubts and draft of a text; capture by weighing; templates; other open forms."""
