"""The written results of the parity corpus are what this Python gives; another Python runs the same file (`npm run parity`, the browser's test)."""

from tests.parity.cases import cases, differences


def test_this_python_agrees_with_the_written_results():
    count, wrong = differences()
    assert count >= 500
    assert count == len(cases()), "the corpus is stale: python -m tests.parity.cases"
    assert wrong == []
