"""Materials: composition, reference materials, keys and blends of lots, what a vessel holds, how fruit softens."""
