"""The computation of Ulsek: pure values and functions, standard library only, no clock, no randomness."""

CORE_VERSION = "1"
