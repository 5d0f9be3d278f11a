"""The house's specs: drafts, versions, and the workbench's sums."""
