"""Values that every room uses: refusals, remarks, ranges, units, vocabulary, the format of numbers, budgets, the registry of figures."""
