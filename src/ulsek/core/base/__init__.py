"""Values that every room uses: messages and their catalogues, refusals, remarks, ranges, units, vocabulary, the format of numbers, budgets, the registry of figures."""
