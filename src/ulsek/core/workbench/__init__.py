"""The workbench: a draft evaluated with the materials and rules of a house, and the questions that are asked of it."""
