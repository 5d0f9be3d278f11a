"""The made-up house: its people and past weeks, loaded as recorded rows, and what happens in it today."""
