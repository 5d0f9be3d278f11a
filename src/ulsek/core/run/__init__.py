"""Runs: events and their fold into a state, reading check, end-point watch, deviations, taste, learned priors, rehearsal, start times."""
