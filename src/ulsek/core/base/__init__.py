"""Values that every room uses: refusals, remarks, ranges, units, vocabulary, the format of numbers, budgets, the figures and their bounds."""
