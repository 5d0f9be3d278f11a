"""Systems of linear equations of a few unknowns."""

from __future__ import annotations

_SINGULAR = 1e-14
"""A pivot below this share of the largest entry counts as zero."""


def solve_linear(matrix: list[list[float]], right: list[float]) -> list[float] | None:
    """Returns x with matrix · x = right, by elimination with row pivots; None if the matrix is singular."""
    n = len(right)
    rows = [[*row, value] for row, value in zip(matrix, right, strict=True)]
    scale = max((abs(entry) for row in matrix for entry in row), default=0.0)
    for column in range(n):
        # The largest pivot of the column keeps rounding errors from growing.
        pivot = max(range(column, n), key=lambda row: abs(rows[row][column]))
        if abs(rows[pivot][column]) <= _SINGULAR * scale:
            return None
        rows[column], rows[pivot] = rows[pivot], rows[column]
        for row in range(column + 1, n):
            share = rows[row][column] / rows[column][column]
            rows[row] = [a - share * b for a, b in zip(rows[row], rows[column], strict=True)]
    # Back substitution, from the last unknown up.
    found = [0.0] * n
    for row in reversed(range(n)):
        known = sum(rows[row][column] * found[column] for column in range(row + 1, n))
        found[row] = (rows[row][n] - known) / rows[row][row]
    return found
