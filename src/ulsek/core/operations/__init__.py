"""Amounts, the step and its parameters, and one module for each family of verbs. Each operation is a pure function; what comes out weighs what went in."""
