"""The estimate of the uncertain inputs of a spec: where it starts."""

from hypothesis import given, settings
from hypothesis import strategies as st

from ulsek.core.evaluation.estimate import Estimate


@settings(max_examples=200)
@given(st.dictionaries(st.sampled_from(["one", "two", "three"]), st.tuples(st.floats(-3, 3), st.floats(0.01, 1.0)), max_size=3))
def test_an_estimate_starts_at_what_earlier_batches_taught_uncorrelated(priors):
    groups = ("one", "two", "three", "four")
    fresh = Estimate.before_readings(groups, {("one", "four"): 0.8})
    estimate = fresh.starting_at(priors)
    for i, group in enumerate(groups):
        mean, variance = priors.get(group, (0.0, 1.0))
        assert (estimate.mean[i], estimate.covariance[i][i]) == (mean, variance)
        for j in range(len(groups)):
            if i != j and (group in priors or groups[j] in priors):
                assert estimate.covariance[i][j] == 0.0
    if "one" not in priors:
        assert estimate.covariance[0][3] == 0.8
