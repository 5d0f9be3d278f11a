"""The spec as a value: its JSON form and schema, reference checks, options, variants, and its sentences."""
